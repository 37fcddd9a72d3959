<template>
  <div class="page stack">
    <h1>Nothing stands here</h1>
    <p>This address leads nowhere. <router-link to="/">Back to the shelf.</router-link></p>
  </div>
</template>
