<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import type { Piece } from '@/drawing/geometry'
import { rises, stemLength } from '@/drawing/geometry'
import PieceDrawing from '@/drawing/PieceDrawing.vue'

/** The offered piece as far as it is known; what is not known is not drawn. */
const { offer } = defineProps<{ offer: Schemas['OfferedPiece'] }>()
const side = computed(() => (offer.sound_mm >= 0 ? Math.max(1, offer.sound_mm) : 15))
const piece = computed<Piece>(() => ({
  id: 'offer',
  nodes:
    offer.node === 'no'
      ? []
      : Array.from({ length: Math.max(1, Math.min(6, offer.nodes)) }, (_, i) => ({
          below_mm: 30,
          leaf: offer.leaf === 'yes' && i === Math.max(1, offer.nodes) - 1,
          aerial_root: offer.aerial_root === 'yes' && i === 0,
          bud: offer.live_bud === 'yes' && i === 0 ? ('swelling' as const) : ('dormant' as const),
        })),
  belowMm: side.value,
  aboveMm: offer.node === 'no' ? 40 : side.value,
  thicknessMm: 9,
  tip: false,
  setNodes: 1,
  strip: [],
  roots: [],
  buds: [],
  rotMm: offer.firm === 'no' ? 12 : 0,
  patterned: offer.stripe === 'some' || offer.stripe === 'strong',
}))
const height = computed(() => Math.max(rises(piece.value), stemLength(piece.value)) + 6)
</script>

<template>
  <svg
    :viewBox="`-55 ${-height} 110 ${height + 6}`"
    width="110"
    height="150"
    role="img"
    aria-label="The piece as far as it is known"
  >
    <PieceDrawing :piece="piece" />
  </svg>
</template>
