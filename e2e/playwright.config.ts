import { copyFileSync, mkdirSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

import { defineConfig, devices } from '@playwright/test'

const port = 8499
/** A second server with nothing in it yet. */
const emptyPort = 8498
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

export default defineConfig({
  testDir: '.',
  outputDir: 'results',
  workers: 1,
  // A machine that is busy with something else may stop for longer than a screen may take: once more, and it is said.
  retries: 1,
  timeout: 120_000,
  expect: { timeout: 25_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    locale: 'en-GB',
    timezoneId: 'UTC',
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: { executablePath: '/usr/bin/chromium', args: chromium },
    screenshot: 'only-on-failure',
    trace: 'retain-on-failure',
  },
  projects: [
    { name: 'desktop', testIgnore: /(phone|empty|crash)\.spec/, use: { viewport: { width: 1280, height: 800 } } },
    { name: 'phone', testMatch: /phone\.spec/, use: { ...devices['Pixel 7'], viewport: { width: 390, height: 844 } } },
    {
      name: 'empty',
      testMatch: /empty\.spec/,
      use: { ...devices['Pixel 7'], viewport: { width: 390, height: 844 }, baseURL: `http://127.0.0.1:${emptyPort}` },
    },
    // Kills PostgreSQL, so it comes after everything else.
    {
      name: 'crash',
      testMatch: /crash\.spec/,
      dependencies: ['desktop', 'phone', 'empty'],
      use: { viewport: { width: 1280, height: 800 } },
    },
  ],
  webServer: [
    [port, 'e2e'],
    [emptyPort, 'e2e_empty'],
  ].map(([at, database]) => ({
    command: `bash ../scripts/e2e-server.sh ${at} ${database}`,
    url: `http://127.0.0.1:${at}/api/handbook`,
    timeout: 60_000,
    reuseExistingServer: false,
    env: { TZ: 'UTC' },
  })),
})
