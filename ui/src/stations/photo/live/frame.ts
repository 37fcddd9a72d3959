import jsQR from 'jsqr'

import type { Pt } from '../lookDraft'

/** What is told while the camera is held; the limits are numbers of the job. */
export interface Limits {
  tagLeast: number
  tagMost: number
  tilt: number
  glare: number
  dark: number
  sharp: number
}
export interface Frame {
  tags: { payload: string; corners: Pt[] }[]
  /** What to do before the shot, the most pressing first; nothing when it is good. */
  advice: string[]
}

const prefix = 'CJ1:'
/** As many tags as are looked for in one frame. */
const most = 4

/** A frame as the camera gives it, RGBA. */
export interface Pixels {
  data: Uint8ClampedArray
  width: number
  height: number
}

/** Reads the tags in a frame, one after the other: each is painted over when it is read. */
function tagsIn(of: Pixels): Frame['tags'] {
  const data = new Uint8ClampedArray(of.data)
  const out: Frame['tags'] = []
  for (let n = 0; n < most; n++) {
    const code = jsQR(data, of.width, of.height, { inversionAttempts: 'dontInvert' })
    if (!code) break
    const l = code.location
    const corners = [l.topLeftCorner, l.topRightCorner, l.bottomRightCorner, l.bottomLeftCorner]
    if (code.data.startsWith(prefix)) out.push({ payload: code.data, corners })
    const [left, right] = [Math.min(...corners.map((c) => c.x)), Math.max(...corners.map((c) => c.x))]
    const [top, bottom] = [Math.min(...corners.map((c) => c.y)), Math.max(...corners.map((c) => c.y))]
    for (let y = Math.max(0, Math.floor(top)); y < Math.min(of.height, bottom); y++) {
      data.fill(
        128,
        4 * (y * of.width + Math.max(0, Math.floor(left))),
        4 * (y * of.width + Math.min(of.width, Math.ceil(right))),
      )
    }
  }
  return out
}

/** Mean brightness, the share that is blown out, and how sharp the middle is. */
export function lightOf({ data, width, height }: Pixels): { mean: number; blown: number; sharp: number } {
  const grey = new Float32Array(width * height)
  let [sum, blown] = [0, 0]
  for (let i = 0; i < grey.length; i++) {
    const v = 0.299 * (data[4 * i] ?? 0) + 0.587 * (data[4 * i + 1] ?? 0) + 0.114 * (data[4 * i + 2] ?? 0)
    grey[i] = v
    sum += v
    if (v >= 250) blown++
  }
  const at = (x: number, y: number) => grey[y * width + x] ?? 0
  let [n, bend, s, s2] = [0, 0, 0, 0]
  for (let y = height >> 2; y < (3 * height) >> 2; y++) {
    for (let x = width >> 2; x < (3 * width) >> 2; x++) {
      const l = 4 * at(x, y) - at(x - 1, y) - at(x + 1, y) - at(x, y - 1) - at(x, y + 1)
      bend += l * l
      s += at(x, y)
      s2 += at(x, y) ** 2
      n++
    }
  }
  const spread = s2 / n - (s / n) ** 2
  return { mean: sum / grey.length, blown: blown / grey.length, sharp: spread > 1 ? bend / n / spread : 0 }
}

/** Looks at one frame. */
export function lookAtFrame(of: Pixels, limits: Limits): Frame {
  const tags = tagsIn(of)
  const { mean, blown, sharp } = lightOf(of)
  const advice: string[] = []
  if (mean < limits.dark) advice.push('Too dark: more light from the side, no flash.')
  if (sharp < limits.sharp) advice.push('Out of focus: tap the jar on the screen, hold still, or go back a little.')
  const longer = Math.max(of.width, of.height)
  const side = (t: Frame['tags'][number], i: number) => {
    const [a, b] = [t.corners[i % 4] as Pt, t.corners[(i + 1) % 4] as Pt]
    return Math.hypot(a.x - b.x, a.y - b.y)
  }
  const sides = tags.map((t) => [0, 1, 2, 3].map((i) => side(t, i)))
  const largest = Math.max(0, ...sides.flat()) / longer
  if (!tags.length) advice.push('No tag is read: the tag beside the jar, its whole code in the frame.')
  else if (largest < limits.tagLeast) advice.push('Too far away for roots: go nearer.')
  else if (largest > limits.tagMost) advice.push('Too near: the whole jar belongs in the frame.')
  if (sides.some((s) => Math.max(...s) / Math.min(...s) > limits.tilt))
    advice.push('Tilted: hold the phone upright, straight before the jar.')
  if (blown > limits.glare) advice.push('Glare: turn the jar or yourself until the window is not in the glass.')
  return { tags, advice }
}
