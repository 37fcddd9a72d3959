import { copyFileSync, mkdirSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

import { defineConfig, devices } from '@playwright/test'

/** The highest of the ports in use; another leaves a second run alone. */
const port = Number(process.env['CLEARJAR_E2E_PORT'] ?? 8499)
/** A second server with nothing in it yet. */
const emptyPort = port - 1
/** A third at which nobody is a member yet, reached by its name. */
const doorPort = port - 2
/** A fourth as it stands in a home network, by https. */
const wayPort = port - 4
/** What the browser's camera sees: a film of one picture. */
const here = (name: string) => fileURLToPath(new URL(name, import.meta.url))
mkdirSync(here('../var'), { recursive: true })
copyFileSync(here('../demo/photos/demo_aroid_day38.jpg'), here('../var/camera.mjpeg'))
const chromium = [
  ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
  '--disable-dev-shm-usage',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--font-render-hinting=none',
  '--use-fake-ui-for-media-stream',
  '--use-fake-device-for-media-stream',
  `--use-file-for-fake-video-capture=${here('../var/camera.mjpeg')}`,
]

/** The servers, for those who sign in to them before any test. */
process.env['CLEARJAR_E2E_WAY'] = String(wayPort)
process.env['CLEARJAR_E2E_PORTS'] = `${port},${emptyPort}`

export default defineConfig({
  testDir: '.',
  globalSetup: './signed-in.ts',
  outputDir: 'results',
  workers: 1,
  // A machine that is busy with something else may stop for longer than a screen may take: once more, and it is said.
  retries: 1,
  timeout: 120_000,
  expect: { timeout: 25_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    storageState: here(`../var/signed-in-${port}.json`),
    locale: 'en-GB',
    timezoneId: 'UTC',
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: { executablePath: '/usr/bin/chromium', args: chromium },
    screenshot: 'only-on-failure',
    trace: 'retain-on-failure',
  },
  projects: [
    { name: 'desktop', testIgnore: /(phone|empty|crash|door|wayin)\.spec/, use: { viewport: { width: 1280, height: 800 } } },
    { name: 'phone', testMatch: /phone\.spec/, use: { ...devices['Pixel 7'], viewport: { width: 390, height: 844 } } },
    {
      name: 'empty',
      testMatch: /empty\.spec/,
      use: {
        ...devices['Pixel 7'],
        viewport: { width: 390, height: 844 },
        baseURL: `http://127.0.0.1:${emptyPort}`,
        storageState: here(`../var/signed-in-${emptyPort}.json`),
      },
    },
    {
      name: 'door',
      testMatch: /door\.spec/,
      use: {
        viewport: { width: 1280, height: 800 },
        baseURL: `http://localhost:${doorPort}`,
        storageState: { cookies: [], origins: [] },
      },
    },
    {
      name: 'wayin',
      testMatch: /wayin\.spec/,
      use: { viewport: { width: 1280, height: 800 }, storageState: { cookies: [], origins: [] } },
    },
    // Kills PostgreSQL, so it comes after everything else.
    {
      name: 'crash',
      testMatch: /crash\.spec/,
      dependencies: ['desktop', 'phone', 'empty', 'door', 'wayin'],
      use: { viewport: { width: 1280, height: 800 } },
    },
  ],
  webServer: [
    ...(
      [
        [port, 'e2e'],
        [emptyPort, 'e2e_empty'],
        [doorPort, 'e2e_door'],
      ] as const
    ).map(([at, database]) => ({
      command: `bash ../scripts/e2e-server.sh ${at} ${database}`,
      url: `http://127.0.0.1:${at}/readyz`,
      timeout: 60_000,
      reuseExistingServer: false,
      env: { TZ: 'UTC' },
    })),
    {
      command: `bash ../scripts/e2e-wayin.sh ${wayPort} e2e_way ${here('../var/e2e-authority')}`,
      url: `https://localhost:${wayPort}/readyz`,
      ignoreHTTPSErrors: true,
      timeout: 60_000,
      reuseExistingServer: false,
      env: { TZ: 'UTC' },
    },
  ],
})
