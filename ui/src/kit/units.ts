import { useStorage } from '@vueuse/core'

/** The grower's own units. Inside, and on the way to the server, lengths are mm and temperatures degrees C. */
export type LengthUnit = 'mm' | 'cm' | 'in'
export type TemperatureUnit = 'C' | 'F'

export const lengthUnit = useStorage<LengthUnit>('clearjar.length', 'mm')
export const temperatureUnit = useStorage<TemperatureUnit>('clearjar.temperature', 'C')

export const lengthUnits: { key: LengthUnit; label: string }[] = [
  { key: 'mm', label: 'mm' },
  { key: 'cm', label: 'cm' },
  { key: 'in', label: 'inch' },
]
export const temperatureUnits: { key: TemperatureUnit; label: string }[] = [
  { key: 'C', label: '°C' },
  { key: 'F', label: '°F' },
]

/** 1 inch is 25.4 mm, by definition. */
const mmIn: Record<LengthUnit, number> = { mm: 1, cm: 10, in: 25.4 }

export const inUnit = (mm: number): number => mm / mmIn[lengthUnit.value]
export const toMm = (shown: number): number => shown * mmIn[lengthUnit.value]

/** A number of the unit with as many places as a hand can measure. */
function shown(mm: number, places = 0): string {
  const v = inUnit(mm)
  if (lengthUnit.value === 'mm') return String(Number(v.toFixed(places)))
  if (lengthUnit.value === 'cm') return String(Number(v.toFixed(1 + places)))
  return String(Number(v.toFixed(v < 10 ? 2 : 1 + places)))
}

/** "54 mm", "5.4 cm" or "2.1 in". */
export const len = (mm: number, places = 0): string => `${shown(mm, places)} ${lengthUnit.value}`
/** The number alone, for beside a drawing. */
export const lenNumber = (mm: number): string => shown(mm)

const lengths = /(\d+(?:\.\d+)?)((?:\s*(?:to|and|-|–|×|x)\s*)(\d+(?:\.\d+)?))?(\s?)mm\b/g
const degrees = /((?<![\d.])-?\d+(?:\.\d+)?)((?:\s*(?:to|-|–)\s*)(-?\d+(?:\.\d+)?))?\s?°C/g
const fahrenheit = (c: string) => String(Math.round((Number(c) * 9) / 5 + 32))

/** A temperature in the grower's own unit, for beside a drawing. */
export const inDegrees = (c: number): number => (temperatureUnit.value === 'F' ? (c * 9) / 5 + 32 : c)

/** A sentence that came in mm and degrees C, in the grower's own units. */
export function said(text: string): string {
  let out = text
  if (lengthUnit.value !== 'mm') {
    out = out.replace(lengths, (_, a: string, rest: string | undefined, b: string | undefined, gap: string) => {
      const places = a.includes('.') ? 1 : 0
      const second = rest && b ? rest.replace(b, shown(Number(b), places)) : ''
      return `${shown(Number(a), places)}${second}${gap || ' '}${lengthUnit.value}`
    })
  }
  if (temperatureUnit.value === 'F') {
    out = out.replace(degrees, (_, a: string, rest: string | undefined, b: string | undefined) => {
      const second = rest && b ? rest.replace(b, fahrenheit(b)) : ''
      return `${fahrenheit(a)}${second} °F`
    })
  }
  return out
}
