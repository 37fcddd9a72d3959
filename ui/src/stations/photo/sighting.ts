import { useDebounceFn } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue'

import { api, newId, take, type Schemas } from '@/api/client'

import { rootKey, type DraftRoot, type LookDraft, type Pt } from './lookDraft'

export type RootSeen = Schemas['RootSeen']
/** What the next tap on the photo does to the chosen root. */
export type Act = '' | 'tip' | 'pass' | 'cut'

const away = (a: Pt, b: Pt): number => Math.hypot(a.x - b.x, a.y - b.y)
const nearest = (path: Pt[], p: Pt): number => path.reduce((best, q, i) => (away(q, p) < away(path[best] ?? q, p) ? i : best), 0)
const askEvery = 300
/** Two tips nearer than this, as a share of the photo's height, are one. */
const sameTip = 0.009

/** Asks a photo for its tags, its scale and its roots, and keeps what the grower makes of them in the draft. */
export function useSighting(cuttingId: string, draft: Ref<LookDraft>, points: Ref<number[]>, byHand: Ref<boolean>) {
  const sighting = ref<Schemas['Sighting']>()
  const problem = ref<Error>()
  const act = ref<Act>('')
  const following = ref(false)
  let gone = false
  let asked = ''
  onBeforeUnmount(() => (gone = true))

  const photoId = computed(() => draft.value.photo?.sha256 && draft.value.photo.id)
  /** The photo as it is turned. */
  const turned = computed(() => photoId.value && `${photoId.value} ${draft.value.photo?.turn ?? 1}`)
  const marked = computed(() => draft.value.nodesAt ?? {})
  /** The node a tap marks next, from the base up; none when all are marked. */
  const nextNode = computed(() => points.value.find((n) => !marked.value[n]))
  const working = computed(() => Boolean(sighting.value && ['waiting', 'working'].includes(sighting.value.state)))
  const seen = computed(() => (sighting.value?.state === 'done' ? sighting.value.seen : undefined))

  async function ask() {
    const photo = photoId.value
    if (!photo || gone || byHand.value) return
    // What was asked before is of no use any more: it does not keep this one waiting.
    if (working.value) void stop()
    const id = newId()
    asked = id
    problem.value = undefined
    try {
      const body = {
        id,
        photo_id: photo,
        cutting_id: cuttingId,
        nodes: Object.entries(marked.value).map(([node, at]) => ({ node: Number(node), at })),
        ...(draft.value.rootsAre ? { colour: draft.value.rootsAre } : {}),
        ...(draft.value.edges ?? {}),
        ...(draft.value.waterY === undefined ? {} : { water_y: draft.value.waterY }),
      }
      sighting.value = await take(api.POST('/api/sightings', { body }))
      while (asked === id && !gone && working.value) {
        await new Promise((done) => setTimeout(done, askEvery))
        if (asked !== id || gone) return
        sighting.value = await take(api.GET('/api/sightings/{id}', { params: { path: { id } } }))
      }
      if (asked !== id) return
      // Nodes of an earlier photo of this piece are laid over this one, to be dragged where they are off.
      const over = seen.value?.carried ?? []
      if (over.length && !Object.keys(marked.value).length) {
        draft.value.nodesAt = Object.fromEntries(over.map((n) => [n.node, n.at]))
        draft.value.carried = seen.value?.carried_from
        return
      }
      const sight = seen.value?.sight
      if (sight && Object.keys(marked.value).length) draft.value.sight = sight
      else delete draft.value.sight
    } catch (e) {
      if (asked === id) problem.value = e as Error
    }
  }
  const askSoon = useDebounceFn(ask, 500)
  async function stop() {
    const id = sighting.value?.id
    if (!id) return
    const stopped = await take(api.POST('/api/sightings/{id}/stop', { params: { path: { id } } })).catch(() => undefined)
    if (stopped && sighting.value?.id === id) sighting.value = stopped
  }
  watch(turned, () => (sighting.value = undefined))
  watch([turned, byHand], ([is, hand]) => is && !hand && !sighting.value && void ask(), { immediate: true })
  watch(
    () => [draft.value.nodesAt, draft.value.edges, draft.value.rootsAre, draft.value.waterY],
    () => void askSoon(),
    { deep: true },
  )

  /** Proposals that were not taken up yet: none ends where a root of the draft does. */
  const proposals = computed<RootSeen[]>(() => {
    const near = sameTip * (draft.value.photo?.height_px ?? 1000)
    const tips = draft.value.roots.flatMap((r) => r.path.at(-1) ?? [])
    return (seen.value?.roots ?? []).filter((p) => {
      const tip = p.path.at(-1)
      return tip && !(draft.value.left ?? []).some((t) => away(t, tip) < near) && !tips.some((t) => away(t, tip) < near)
    })
  })

  const rootOf = (p: RootSeen, was?: DraftRoot): DraftRoot => ({
    key: was?.key ?? rootKey(),
    node: p.node,
    order: p.order === 2 ? 2 : 1,
    colour: was?.colour ? was.colour : (p.colour ?? ''),
    path: p.path,
    typed: false,
    typedMm: null,
    says: p.says,
  })
  const accept = (p: RootSeen): string => {
    const root = rootOf(p)
    draft.value.roots.push(root)
    return root.key
  }
  const acceptAll = () => proposals.value.forEach(accept)
  /** A proposal that is none stays away. */
  const leave = (p: RootSeen) => {
    const tip = p.path.at(-1)
    if (tip) draft.value.left = [...(draft.value.left ?? []), tip]
  }

  /** Follows a root from a tap on its tip; was is the root it mends. */
  async function follow(tip: Pt, pass: Pt[], node: number, was?: DraftRoot): Promise<string | undefined> {
    const id = sighting.value?.id
    if (!id) return
    following.value = true
    problem.value = undefined
    try {
      const got = await take(api.POST('/api/sightings/{id}/follow', { params: { path: { id } }, body: { tip, pass, node } }))
      const root = { ...rootOf(got, was), tap: { tip, pass } }
      const at = was ? draft.value.roots.findIndex((r) => r.key === was.key) : -1
      if (at >= 0) draft.value.roots[at] = { ...root, order: was?.order ?? root.order }
      else draft.value.roots.push(root)
      return root.key
    } catch (e) {
      problem.value = e as Error
      return
    } finally {
      following.value = false
    }
  }

  /** A tap on the photo, with the root that is chosen. */
  async function tap(p: Pt, chosen: DraftRoot | undefined): Promise<string | undefined> {
    const tip = chosen?.tap?.tip ?? chosen?.path.at(-1)
    const doing = act.value
    if (!chosen || !tip || !doing) return follow(p, [], 0)
    if (doing === 'cut') {
      chosen.path = chosen.path.slice(0, Math.max(2, nearest(chosen.path, p) + 1))
      delete chosen.tap
      act.value = ''
      return chosen.key
    }
    if (doing === 'tip') {
      act.value = ''
      return follow(p, chosen.tap?.pass ?? [], chosen.node, chosen)
    }
    // From the tip to the node: a point nearer to the tip comes first.
    const pass = [...(chosen.tap?.pass ?? []), p].sort((a, b) => away(a, tip) - away(b, tip))
    return follow(tip, pass, chosen.node, chosen)
  }
  /** The same root, followed to another node. */
  const giveTo = (root: DraftRoot, node: number) => {
    const tip = root.tap?.tip ?? root.path.at(-1)
    return tip && marked.value[node] ? follow(tip, root.tap?.pass ?? [], node, root) : undefined
  }

  return {
    sighting,
    seen,
    problem,
    working,
    following,
    proposals,
    nextNode,
    act,
    ask,
    stop,
    accept,
    acceptAll,
    leave,
    tap,
    giveTo,
  }
}
