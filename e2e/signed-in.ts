import { fileURLToPath } from 'node:url'

import { request } from '@playwright/test'

/** Signs in once at each server, as the demo's button does; every test begins with that cookie. */
export default async function signIn(): Promise<void> {
  for (const port of (process.env['CLEARJAR_E2E_PORTS'] ?? '').split(',')) {
    const at = await request.newContext({ baseURL: `http://127.0.0.1:${port}` })
    const said = await at.post('/api/sign-in/demo', { data: { device: 'Browser test' } })
    if (!said.ok()) throw new Error(`signing in at ${port}: ${said.status()} ${await said.text()}`)
    await at.storageState({ path: fileURLToPath(new URL(`../var/signed-in-${port}.json`, import.meta.url)) })
    await at.dispose()
  }
}
