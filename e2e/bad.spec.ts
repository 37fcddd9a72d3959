import { mkdtempSync, readFileSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

import { choose, clickPhoto, cuttingByCode, expect, into, motherByCode, test, typeDay } from './kit'

// The browser itself reports each refused request on the console; that is what is being tested here.
test.use({ tolerate: [/the server responded with a status of 4(09|13|22)/] })

const dir = mkdtempSync(join(tmpdir(), 'clearjar-'))
const file = (name: string, data: string | Buffer) => {
  const path = join(dir, name)
  writeFileSync(path, data)
  return path
}
const photo = new URL('../demo/photos/demo_moss_day10.jpg', import.meta.url).pathname

test.describe('a page that comes in part', () => {
  test.use({ tolerate: [/Failed to (load resource|fetch dynamically)/] })
  test('says so, in place of an empty screen', async ({ page }) => {
    await page.route('**/assets/frame-*.js', (r) => r.abort())
    await page.goto('/')
    await expect(page.getByRole('alert')).toContainText('could not be fetched whole')
    await page.unroute('**/assets/frame-*.js')
    await page.reload()
    await expect(page.getByRole('complementary', { name: 'Today' })).toBeVisible()
  })
})

test('files that are no photo, and a scale that cannot be', async ({ page }) => {
  const c = await cuttingByCode(page, 'MEL-A3-4')
  await page.goto(`/cuttings/${c.id}/look`)
  const input = page.getByTestId('photo-file')
  await input.setInputFiles(file('notes.jpg', 'not a picture'))
  await expect(page.getByRole('alert')).toContainText('not a JPEG, PNG or HEIC')
  const whole = readFileSync(photo)
  await input.setInputFiles(file('half.jpg', whole.subarray(0, whole.length / 2)))
  await expect(page.getByRole('alert')).toContainText('cut short')
  const huge = file('huge.jpg', '')
  truncateSync(huge, 100 * 1024 * 1024)
  await input.setInputFiles(huge)
  await expect(page.getByRole('alert')).toContainText('at most 25 MB')

  // What was noted meanwhile is still there.
  await page.getByRole('group', { name: 'Leaf' }).getByRole('button', { name: 'fresh' }).click()
  await input.setInputFiles(photo)
  await expect(page.getByTestId('board')).toBeVisible()
  await page.getByRole('button', { name: 'Measure by two points instead' }).click()
  await clickPhoto(page, [300, 1200])
  await clickPhoto(page, [300, 1200])
  await page.getByLabel('Between them, mm').fill('50')
  await expect(page.getByRole('alert')).toContainText('same spot')
  await page.getByRole('button', { name: 'Set the two points again' }).click()
  await clickPhoto(page, [200, 1200])
  await clickPhoto(page, [450, 1200])
  await page.getByLabel('Between them, mm').fill('0')
  await expect(page.getByRole('alert')).toContainText('more than 0 mm')
  await page.getByLabel('Between them, mm').fill('50')
  await expect(page.getByRole('alert')).toHaveCount(0)

  // A day before the cut is refused beside the field, and nothing typed is lost.
  await typeDay(page, 'Looked on', '2019-05-01')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByText(/is before the cut/).first()).toBeVisible()
  await expect(page.getByRole('group', { name: 'Leaf' }).getByRole('button', { name: 'fresh' })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
})

test('a full vessel', async ({ page }) => {
  const c = await cuttingByCode(page, 'HOY-A7')
  await page.goto(`/set?cutting=${c.id}`)
  await into(page, /Slim jar/)
  await page.getByRole('button', { name: 'It is set' }).click()
  await expect(page.getByRole('alert')).toContainText('full: it holds 1')
  await page.getByRole('button', { name: 'A new vessel' }).click()
  await page.getByLabel('Name of the vessel').fill('Odd jar')
  await page.getByLabel('water level, mm').fill('400')
  await page.getByRole('button', { name: 'It is set' }).click()
  await expect(page.getByText(/higher than the vessel/i).first()).toBeVisible()
})

test('two tabs editing one stem: nothing is lost', async ({ page, context }) => {
  const mother = await motherByCode(page, 'HOY')
  const path = `/mothers/${mother.id}/stems/${mother.stems[0]!.id}`
  const other = await context.newPage()
  await page.goto(path)
  await expect(page.getByRole('slider')).toHaveCount(7)
  // The second tab opened the stem at the same version, with nothing typed yet.
  await other.route('**/api/stems/*', (r) => (r.request().method() === 'PUT' ? r.abort() : r.continue()))
  await other.goto(path)
  await expect(other.getByRole('slider')).toHaveCount(7)
  const save = async (internode: number, version: number) => {
    const stem = (await (await page.request.get(`/api/stems/${mother.stems[0]!.id}`)).json()) as {
      map: { nodes: { below_mm: number }[] }
    }
    stem.map.nodes[0]!.below_mm = internode
    const id = '01980000-0000-7000-8000-' + String(Date.now()).slice(-12)
    return page.request.put(`/api/stems/${mother.stems[0]!.id}`, {
      data: { fact_id: id, mother_id: mother.id, version, map: stem.map },
    })
  }
  expect((await save(47, 1)).status()).toBe(200)
  await page.getByRole('slider', { name: 'Node 7' }).focus()
  await page.keyboard.press('Shift+ArrowRight')
  await page.getByRole('button', { name: 'Save the map' }).click()
  await expect(page.getByRole('alert')).toContainText('you edited version 1, version 2 stands now')
  await page.getByRole('button', { name: 'Save mine over it, as version 3' }).click()
  await expect(page.getByRole('heading', { name: 'Stem A' })).toBeVisible()
  await other.close()
})

test('HTML in a name is text', async ({ page }) => {
  const name = '<img src=x onerror="document.title=\'broken\'"> & <b>bold</b>'
  await page.goto('/mothers')
  await page.getByRole('button', { name: 'Add a mother' }).click()
  await page.getByLabel('Full name').fill(name)
  await choose(page, /Growth group/, /Wax vines/)
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText(name)
  await expect(page).not.toHaveTitle(/broken/)
})

test('an empty name is refused beside its field', async ({ page }) => {
  await page.goto('/mothers')
  await page.getByRole('button', { name: 'Add a mother' }).click()
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByText('write something here').first()).toBeVisible()
})

test('a cutting comes to its end: lost, reopened, and established', async ({ page }) => {
  const lost = await cuttingByCode(page, 'MEL-A7-8')
  await page.goto(`/cuttings/${lost.id}`)
  await page.getByRole('button', { name: 'It is lost' }).click()
  const dialog = page.getByRole('dialog')
  await typeDay(page, 'Lost on', 'yesterday')
  await dialog.getByRole('button', { name: 'rotted' }).click()
  await dialog.getByRole('button', { name: 'Close the record' }).click()
  const verdict = page.getByRole('region', { name: 'Verdict' })
  await expect(verdict.getByRole('heading', { name: 'Lost' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'Look: photo or by hand' })).toHaveCount(0)
  const happened = page.getByRole('list', { name: 'What happened' })
  await expect(happened).toContainText(/Lost: rotted|Lost.*rotted/)

  // It leaves the shelf, and the search still knows it.
  await page.goto('/')
  await expect(page.getByText('Glass cabinet, lower')).toBeVisible()
  await expect(page.getByRole('link', { name: /MEL-A7-8/ })).toHaveCount(0)
  await page.keyboard.press('/')
  await page.getByLabel('Code, name or vessel').fill('mel-a7')
  await expect(page.getByRole('dialog').getByRole('button', { name: /MEL-A7-8/ })).toContainText('lost')
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /MEL-A7-8/ })
    .click()

  // Lost by mistake: reopened, with the old entry still in its history.
  await happened.getByRole('button', { name: /^Change: Lost/ }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Reopen the record' }).click()
  await expect(verdict.getByRole('heading', { name: 'Lost' })).toHaveCount(0)

  // Potted six days ago: too early to count as grown on, and it says so.
  const potted = await cuttingByCode(page, 'PIN-A4-5')
  await page.goto(`/cuttings/${potted.id}`)
  await page.getByRole('button', { name: 'It has grown on' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Close the record' }).click()
  await expect(
    page.getByText('too early to count as grown on: at least 7 days after potting', { exact: false }).first(),
  ).toBeVisible()
  await expect(verdict.getByRole('heading', { name: 'Growing on' })).toBeVisible()
})
