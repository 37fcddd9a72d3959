import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

import { cuttingByCode, expect, test } from './kit'

test.use({ tolerate: [/the server responded with a status of 50\d/] })

const postgres = (act: string, ...more: string[]) =>
  execFileSync('bash', [new URL('../scripts/postgres.sh', import.meta.url).pathname, act, 'test', ...more], {
    stdio: 'pipe',
  }).toString()

test('a backup is made and put back while the server runs; a broken file changes nothing', async ({ page }) => {
  const c = await cuttingByCode(page, 'CIS-A7-8')
  const facts = async () => {
    const answer = await page.request.get(`/api/cuttings/${c.id}`)
    return answer.ok() ? JSON.stringify(((await answer.json()) as { history: unknown }).history) : 'not yet'
  }
  const before = await facts()
  const file = join(mkdtempSync(join(tmpdir(), 'clearjar-')), 'backup.dump')
  postgres('dump', file, 'e2e')
  await page.goto(`/cuttings/${c.id}/look`)
  await page.getByLabel('Note', { exact: true }).fill('noted after the backup')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByText('noted after the backup').first()).toBeVisible()
  const later = await facts()
  expect(later).not.toEqual(before)

  const broken = file.replace('backup', 'broken')
  writeFileSync(broken, readFileSync(file).subarray(0, 4000))
  expect(() => postgres('load', broken, 'e2e')).toThrow(/nothing was changed/)
  expect(await facts()).toEqual(later)

  postgres('load', file, 'e2e')
  await expect.poll(facts).toEqual(before)
  const photo = await page.request.get('/api/shelf')
  expect(photo.ok()).toBe(true)
})

test('PostgreSQL killed while saving: a clear message, nothing typed is lost, everything acknowledged is there', async ({
  page,
}) => {
  test.setTimeout(120_000)
  const c = await cuttingByCode(page, 'CIS-A7-8')
  await page.goto(`/cuttings/${c.id}/look`)
  await page.getByRole('group', { name: 'Stem' }).getByRole('button', { name: 'firm' }).click()
  await page.getByLabel('Note', { exact: true }).fill('written just before the lights went out')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByText('written just before the lights went out').first()).toBeVisible()

  await page.goto(`/cuttings/${c.id}/look`)
  await page.getByRole('group', { name: 'Leaf' }).getByRole('button', { name: 'yellowing' }).click()
  await page.getByLabel('Note', { exact: true }).fill('typed while it was dark')
  postgres('kill')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByRole('alert')).toContainText('Not sent yet')
  await expect(page.getByLabel('Note', { exact: true })).toHaveValue('typed while it was dark')
  await expect(page.getByRole('status').filter({ hasText: '1 not sent yet' })).toBeVisible()

  // What waits survives the reload, and goes out by itself once the lights are on.
  postgres('start')
  await page.goto(`/cuttings/${c.id}`)
  await expect(page.getByText('typed while it was dark').first()).toBeVisible({ timeout: 30_000 })
  await expect(page.getByText('written just before the lights went out').first()).toBeVisible()
  const { looks } = (await (await page.request.get(`/api/cuttings/${c.id}`)).json()) as { looks: { seen: { note?: string } }[] }
  expect(looks.filter((l) => l.seen.note === 'typed while it was dark')).toHaveLength(1)
})
