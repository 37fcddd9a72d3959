<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** What became of a file: in a sentence, and its bad rows. */
const { report } = defineProps<{ report: Schemas['ImportReport'] }>()
</script>

<template>
  <div role="status" class="stack">
    <p>
      <b>{{ report.says }}</b>
      <span v-if="report.names.length" class="code"
        >{{ report.names.join(', ')
        }}{{ report.kept > report.names.length ? ` and ${report.kept - report.names.length} more` : '' }}</span
      >
    </p>
    <table v-if="report.bad.length">
      <caption class="sr">
        Bad rows
      </caption>
      <tfoot v-if="report.bad_count > report.bad.length">
        <tr>
          <td colspan="3">The first {{ report.bad.length }} of {{ report.bad_count }} bad rows.</td>
        </tr>
      </tfoot>
      <thead>
        <tr>
          <th scope="col">Row</th>
          <th scope="col">Field</th>
          <th scope="col">What is wrong</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(b, i) in report.bad" :key="i">
          <td class="code">{{ b.line }}</td>
          <td>{{ b.field }}</td>
          <td>{{ b.reason }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
table {
  border-collapse: collapse;
  font-size: var(--beside);
}
th,
td {
  text-align: left;
  padding: 4px 12px 4px 0;
  border-top: 1px solid var(--line);
}
p {
  margin: 0;
}
</style>
