// Taken in before the application, so that the two are not one long task.
export { createApp } from 'vue'
