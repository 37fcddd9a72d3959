// Signs in to a running demo, for the scripts that look at it.
const answer = (base) =>
  fetch(`${base}/api/sign-in/demo`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ device: 'A script' }),
  })

/** The cookie of a log-in, as a header and as a browser takes it. */
export async function signIn(base) {
  const said = await answer(base)
  if (!said.ok) throw new Error(`${base} is no running demo: ${said.status} ${await said.text()}`)
  const [pair] = said.headers.getSetCookie()[0].split(';')
  const at = pair.indexOf('=')
  return {
    headers: { Cookie: pair },
    cookies: [{ name: pair.slice(0, at), value: pair.slice(at + 1), url: base, httpOnly: true, sameSite: 'Strict' }],
  }
}
