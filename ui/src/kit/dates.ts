const dayMs = 86_400_000

const startOf = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime()

/** Calendar days from today to a date; negative for the past. */
export const daysFromNow = (iso: string, now = new Date()): number => Math.round((startOf(new Date(iso)) - startOf(now)) / dayMs)

// The names as the server says them. A formatter of the browser costs a tenth of a second at the start of a page.
const weekdays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday']
const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]
const weekday = (d: Date) => weekdays[d.getDay()] ?? ''
const month = (d: Date) => monthNames[d.getMonth()] ?? ''

/** "Thu 3 Dec"; with the year when it is not this one. */
export function shortDate(iso: string, now = new Date()): string {
  const d = new Date(iso)
  const day = `${weekday(d).slice(0, 3)} ${d.getDate()} ${month(d).slice(0, 3)}`
  return d.getFullYear() === now.getFullYear() ? day : `${day} ${d.getFullYear()}`
}
/** "Thursday 3 December" */
export function longDate(iso: string): string {
  const d = new Date(iso)
  return `${weekday(d)} ${d.getDate()} ${month(d)}`
}

/** "today", "yesterday", "in 3 days", "3 days ago" */
export function relative(iso: string, now = new Date()): string {
  const days = daysFromNow(iso, now)
  if (days === 0) return 'today'
  if (days === 1) return 'tomorrow'
  if (days === -1) return 'yesterday'
  return days > 0 ? `in ${days} days` : `${-days} days ago`
}

/** "Thu 3 Dec, in 10 days" */
export const bothDates = (iso: string): string => `${shortDate(iso)}, ${relative(iso)}`

/** yyyy-mm-dd of a day in the grower's own zone, for date fields. */
export function todayField(now = new Date()): string {
  const two = (n: number) => String(n).padStart(2, '0')
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`
}

/** The date field of some days ago. */
export const agoField = (days: number, now = new Date()): string =>
  todayField(new Date(now.getFullYear(), now.getMonth(), now.getDate() - days))

/** The instant a date field means: now when it is today, noon of another day. */
export function instantOf(field: string, now = new Date()): string {
  if (field === todayField(now)) return now.toISOString()
  const d = new Date(`${field}T12:00:00`)
  return Number.isNaN(d.getTime()) ? '' : d.toISOString()
}

const months = monthNames.map((m) => m.slice(0, 3).toLowerCase())

/**
 * Reads what a person types for a day: "today", "yesterday", "3 days ago", "27 Nov", "27 November 2025", "27.11.",
 * "27/11/2025", "2025-11-27". Day before month. Without a year it is the last such day that is past. Empty when it is none.
 */
export function readDay(text: string, now = new Date()): string {
  const t = text
    .trim()
    .toLowerCase()
    .replace(/^(mon|tue|wed|thu|fri|sat|sun)[a-z]*\.?,?\s+/, '')
  if (t === 'today') return agoField(0, now)
  if (t === 'yesterday') return agoField(1, now)
  const ago = /^(\d+|a|an|one|two|three) (day|week)s? ago$/.exec(t)
  if (ago) {
    const n = { a: 1, an: 1, one: 1, two: 2, three: 3 }[ago[1] ?? ''] ?? Number(ago[1])
    return agoField(n * (ago[2] === 'week' ? 7 : 1), now)
  }
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(t)
  if (iso) return day(Number(iso[1]), Number(iso[2]), Number(iso[3]))
  const numbers = /^(\d{1,2})[./ ](\d{1,2})(?:[./ ]+(\d{4}|\d{2}))?\.?$/.exec(t)
  const words = /^(\d{1,2})\.? ?([a-z]{3,9})\.?,? ?(\d{4})?$/.exec(t)
  const d = Number(numbers?.[1] ?? words?.[1])
  const m = numbers ? Number(numbers[2]) : months.indexOf((words?.[2] ?? '').slice(0, 3)) + 1
  const said = numbers?.[3] ?? words?.[3]
  if (!d || !m) return ''
  if (said) return day(Number(said) + (said.length === 2 ? 2000 : 0), m, d)
  const this_ = day(now.getFullYear(), m, d)
  return this_ !== '' && this_ <= todayField(now) ? this_ : day(now.getFullYear() - 1, m, d)
}

/** A day that exists, as a date field; else empty. */
function day(y: number, m: number, d: number): string {
  const at = new Date(y, m - 1, d)
  return at.getFullYear() === y && at.getMonth() === m - 1 && at.getDate() === d ? todayField(at) : ''
}
