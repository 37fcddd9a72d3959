import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

import { accessible, expect, motherByCode, newId, test } from './kit'

test.use({ tolerate: [/the server responded with a status of 4(09|22)/] })

const dir = mkdtempSync(join(tmpdir(), 'clearjar-'))
const file = (name: string, data: string) => {
  const path = join(dir, name)
  writeFileSync(path, data)
  return path
}

test('maps go out and come in; every bad row is named', async ({ page }) => {
  await page.goto('/files')
  const out = page.getByRole('region', { name: 'Out' })
  const saving = page.waitForEvent('download')
  await out.getByRole('link', { name: 'CSV' }).first().click()
  const saved = await saving
  expect(saved.suggestedFilename()).toBe('clearjar-stems.csv')
  const csv = readFileSync(await saved.path(), 'utf8')
  expect(csv.split('\n')[0]).toContain('mother,mother_name,group')

  const box = page.getByRole('region', { name: 'In' })
  await box.getByTestId('import-file').setInputFiles(file('same.csv', csv))
  await box.getByRole('button', { name: 'Read it' }).click()
  await expect(box.getByRole('status')).toContainText(/0 kept, \d+ already here/)

  const bad = `mother,mother_name,group,stem,node,below_mm,leaf
ZEB,Zebrina of the attic,cissus_kin,A,1,30,true
ZEB,,,A,2,28,true
ZEB,,,B,1,wide,true
MEL,,,7,1,30,true
`
  await box.getByTestId('import-file').setInputFiles(file('bad.csv', bad))
  await box.getByRole('button', { name: 'Read it' }).click()
  await expect(box.getByRole('status')).toContainText('Nothing was kept')
  await expect(box.getByRole('row', { name: /4 below_mm "wide" is not a number/ })).toBeVisible()
  await expect(box.getByRole('row', { name: /5 stem/ })).toContainText('letter')
  await accessible(page)
  await box.getByRole('button', { name: 'Keep the good ones' }).click()
  await expect(box.getByRole('status')).toContainText('1 kept')
  await expect(box.getByRole('status')).toContainText('ZEB-A')
  expect((await motherByCode(page, 'ZEB')).stems).toHaveLength(1)

  await box.getByTestId('import-file').setInputFiles(file('notes.json', '{"format": "shopping"}'))
  await box.getByRole('button', { name: 'Read it' }).click()
  await expect(box.getByRole('alert')).toContainText('clearjar/stem-maps')
})

test('a plan on a map that has changed, and a node cut from two tabs', async ({ page, context }) => {
  await page.goto('/mothers')
  const mel = await motherByCode(page, 'AMY')
  const stem = mel.stems[0]!.id
  await page.goto(`/cut/${stem}`)
  await expect(page.getByRole('region', { name: 'The plan' })).toContainText('plants expected')
  await page.getByRole('button', { name: 'Prepare the bench' }).click()
  await expect(page.getByRole('heading', { name: /Bench for/ })).toBeVisible()

  // Another tab cuts the same stem first.
  const other = await context.newPage()
  await other.goto(`/cut/${stem}`)
  await other.getByRole('button', { name: 'I have cut it so' }).click()
  await expect(other.getByRole('heading', { name: 'Set', exact: true })).toBeVisible()
  // The first hears of it by itself.
  await expect(page.getByRole('alert')).toContainText('plan again')
  await expect(page.getByRole('button', { name: 'I have cut it so' })).toBeDisabled()

  // A map that changes under an open plan: refused, with the way on.
  const glo = await motherByCode(page, 'GLO')
  const rhizome = glo.stems[0]!.id
  await page.goto(`/cut/${rhizome}`)
  await expect(page.getByRole('region', { name: 'The plan' })).toContainText('plants expected')
  const now = (await (await page.request.get(`/api/stems/${rhizome}`)).json()) as {
    version: number
    map: { thickness_mm: number }
  }
  const fact = newId()
  await page.request.put(`/api/stems/${rhizome}`, {
    data: { fact_id: fact, mother_id: glo.id, version: now.version, map: { ...now.map, thickness_mm: 15 } },
  })
  await page.getByRole('button', { name: 'I have cut it so' }).click()
  await expect(page.getByRole('alert')).toContainText('has changed since the plan was made')
  await page.getByRole('button', { name: 'Plan again on what stands now' }).click()
  await expect(page.getByRole('alert')).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'I have cut it so' })).toBeEnabled()
})

test('what it is built from, each with its licence', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('link', { name: 'About' }).click()
  const built = page.getByRole('region', { name: 'What it is built from' })
  await expect(built).toContainText(/\d\d+ parts/)
  await built.getByLabel('Which').selectOption('font')
  await expect(built.getByRole('listitem')).toHaveCount(3)
  await built.getByText('@fontsource-variable/atkinson-hyperlegible-next', { exact: true }).click()
  await expect(built).toContainText('SIL OPEN FONT LICENSE')
  await page.getByText('The whole licence').click()
  await expect(page.getByRole('region', { name: 'Licence', exact: true })).toContainText('2026 the Clear Jar authors')
})
