<script setup lang="ts">
const open = defineModel<boolean>({ required: true })
const keys = [
  ['/', 'find a cutting by code or name'],
  ['1 to 7', 'Mothers, Cut, Set, Shelf, Round, Photo, Pot up'],
  ['Round: Enter', 'note the card and go on'],
  ['Round: arrows, U, N', 'next or back without a note; undo; not today'],
  ['Round: B, I, H, E', 'next state of the cover; all firm; a photo of it; more'],
  ['Round: letters', 'what was done or seen, as on its button'],
  ['?', 'this list'],
  ['Stem: arrow keys', 'move a node or knife a step (1 mm); with Shift ten steps'],
  ['Stem: N', 'add a node after the chosen one'],
  ['Stem: L, A, B', 'leaf, aerial root, next bud state'],
  ['Knives: Page Up, Down', 'to the next place of the school'],
  ['Stem, knives: Delete', 'take the chosen one away'],
  ['Photo: Enter', 'finish the root being traced'],
  ['Photo: Backspace', 'take back the last point'],
]
</script>

<template>
  <v-dialog v-model="open" aria-label="Keys">
    <v-card class="roomy">
      <h2>Keys</h2>
      <dl>
        <template v-for="[key, what] in keys" :key="key">
          <dt class="code">{{ key }}</dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
      <v-btn color="secondary" variant="outlined" @click="open = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 6px 18px;
  margin: 14px 0;
}
</style>
