import { execFileSync } from 'node:child_process'

import { cuttingByCode, expect, test } from './kit'

test.use({ tolerate: [/the server responded with a status of 50\d/] })

const postgres = (act: string) =>
  execFileSync('bash', [new URL('../scripts/postgres.sh', import.meta.url).pathname, act, 'test'], { stdio: 'pipe' }).toString()

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
  await expect(page.getByRole('alert')).toContainText('nothing was saved')
  await expect(page.getByLabel('Note', { exact: true })).toHaveValue('typed while it was dark')

  postgres('start')
  await page.reload()
  await expect(page.getByLabel('Note', { exact: true })).toHaveValue('typed while it was dark')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByText('typed while it was dark').first()).toBeVisible()
  await expect(page.getByText('written just before the lights went out').first()).toBeVisible()
})
