const dayMs = 86_400_000

const startOf = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime()

/** Calendar days from today to a date; negative for the past. */
export const daysFromNow = (iso: string, now = new Date()): number => Math.round((startOf(new Date(iso)) - startOf(now)) / dayMs)

const short = new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short' })
const long = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })

export const shortDate = (iso: string): string => short.format(new Date(iso))
export const longDate = (iso: string): string => long.format(new Date(iso))

/** "Thu 3 Dec, in 10 days" */
export function bothDates(iso: string): string {
  const days = daysFromNow(iso)
  const words =
    days === 0
      ? 'today'
      : days === 1
        ? 'tomorrow'
        : days === -1
          ? 'yesterday'
          : days > 0
            ? `in ${days} days`
            : `${-days} days ago`
  return `${shortDate(iso)}, ${words}`
}

/** yyyy-mm-dd of today in the grower's own zone, for date fields. */
export function todayField(now = new Date()): string {
  const two = (n: number) => String(n).padStart(2, '0')
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`
}

/** The instant a date field means: now when it is today, noon of another day. */
export function instantOf(field: string, now = new Date()): string {
  if (field === todayField(now)) return now.toISOString()
  const d = new Date(`${field}T12:00:00`)
  return Number.isNaN(d.getTime()) ? '' : d.toISOString()
}
