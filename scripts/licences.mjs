// The licences of everything that is shipped: packages of the front end, its fonts, and Go modules.
// usage: node scripts/licences.mjs [--check]     writes ui/public/licences.json, or fails when it is not current
import { execFileSync } from 'node:child_process'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const run = (...command) => execFileSync(command[0], command.slice(1), { encoding: 'utf8', maxBuffer: 64 << 20 })

/** The licence files of a folder, one after the other. */
function texts(dir) {
  const files = readdirSync(dir).filter((f) => /^(licen[cs]e|copying|notice|ofl)([.-].*)?$/i.test(f))
  return files
    .sort()
    .map((f) => readFileSync(join(dir, f), 'utf8').replace(/\r\n/g, '\n').trim())
    .join('\n\n')
}
/** What kind of licence a text is. */
function kindOf(text) {
  const is = [
    [/GNU LESSER GENERAL PUBLIC LICENSE/i, 'LGPL-3.0'],
    [/SIL OPEN FONT LICENSE/i, 'OFL-1.1'],
    [/Apache License/i, 'Apache-2.0'],
    [/Mozilla Public License/i, 'MPL-2.0'],
    [/Permission to use, copy, modify, and(?:\/or)? distribute this software for any/i, 'ISC'],
    [/Redistribution and use in source and binary forms[\s\S]*Neither the name/i, 'BSD-3-Clause'],
    [/Redistribution and use in source and binary forms/i, 'BSD-2-Clause'],
    [/Permission is hereby granted, free of charge/i, 'MIT'],
  ].find(([sign]) => sign.test(text))
  return is ? is[1] : ''
}

const all = []
const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'))
for (const [path, p] of Object.entries(lock.packages)) {
  if (!path || p.dev || p.devOptional || p.optional || p.extraneous) continue
  const text = texts(path)
  all.push({
    name: path.replace(/^.*node_modules\//, ''),
    version: p.version,
    licence: p.license ?? kindOf(text),
    part: path.includes('@fontsource') ? 'font' : path.includes('@mdi') ? 'icons' : 'script',
    text,
  })
}
const modules = run(
  'go',
  'list',
  '-deps',
  '-f',
  '{{with .Module}}{{if not .Main}}{{.Path}}\t{{.Version}}\t{{.Dir}}{{end}}{{end}}',
  './cmd/clearjar',
)
for (const line of [...new Set(modules.split('\n').filter(Boolean))]) {
  const [name, version, dir] = line.split('\t')
  const text = texts(dir)
  all.push({ name, version, licence: kindOf(text), part: 'Go module', text })
  // A module may carry a library of another language, with a licence of its own.
  const lib = join(dir, 'lib')
  for (const f of existsSync(lib) ? readdirSync(lib) : []) {
    const of = /^LICENSE\.(.+)$/.exec(f)?.[1]
    if (!of) continue
    const its = readFileSync(join(lib, f), 'utf8').replace(/\r\n/g, '\n').trim()
    all.push({ name: of, version: `in ${name}`, licence: kindOf(its), part: 'library', text: its })
  }
}
const goText = texts(run('go', 'env', 'GOROOT').trim())
all.push({ name: 'Go', version: '', licence: 'BSD-3-Clause', part: 'Go library', text: goText })
all.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : a.version < b.version ? -1 : 1))

const silent = all.filter((l) => !l.licence)
if (silent.length) {
  console.error(`no licence found: ${silent.map((l) => l.name).join(', ')}`)
  process.exit(1)
}
// Each text once, however many share it.
const shared = []
const list = all.map(({ text, ...l }) => {
  let at = shared.indexOf(text)
  if (at < 0) at = shared.push(text) - 1
  return { ...l, text: at }
})
const written = `${JSON.stringify({ own: readFileSync('LICENSE', 'utf8'), list, texts: shared })}\n`
const file = 'ui/public/licences.json'
if (process.argv.includes('--check')) {
  // The text of Go's own licence goes with the Go that is installed; everything else must be the same.
  const names = (json) => JSON.stringify(JSON.parse(json).list.map((l) => [l.name, l.version, l.licence]))
  let kept = '{"list":[]}'
  try {
    kept = readFileSync(file, 'utf8')
  } catch {
    // told below
  }
  if (names(kept) !== names(written)) {
    console.error(`${file} is stale: run make licences`)
    process.exit(1)
  }
} else {
  writeFileSync(file, written)
  console.log(`${list.length} licences, ${shared.length} texts`)
}
