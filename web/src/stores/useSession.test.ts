import { beforeEach, expect, it, vi } from 'vitest'
import { fakeService } from '../testing/fakeService'

const state = (more: object = {}) => ({
  sign_in: true,
  known: false,
  name: '',
  administrator: false,
  link_project: '',
  csrf_token: '',
  accounts: true,
  ...more,
})

beforeEach(() => {
  vi.resetModules()
  vi.stubGlobal('location', { hash: '', pathname: '/' })
  vi.stubGlobal('history', { replaceState: vi.fn() })
})

it('is known on the own machine, and asks for no password', async () => {
  fakeService(() => ({ body: state({ sign_in: false, known: true }) }))
  const { useSession } = await import('./useSession')
  const { load, known, session } = useSession()
  await load()
  expect(known.value).toBe(true)
  expect(session.value?.sign_in).toBe(false)
})

it('signs in, sends the token of the sign-in with what changes something, and learns that it ended', async () => {
  const headers: Record<string, string>[] = []
  let ended = false
  fakeService(({ path, method }) => {
    if (path === '/api/session') return { body: state(method === 'POST' ? { known: true, csrf_token: 'mine' } : {}) }
    return ended ? { status: 401, body: { code: 'sign in', message: 'Sign in first.' } } : { status: 204 }
  })
  const asked = globalThis.fetch
  vi.stubGlobal('fetch', (path: string, options: { headers: Record<string, string> }) => {
    headers.push(options.headers)
    return asked(path, options)
  })
  const { useSession } = await import('./useSession')
  const { api } = await import('../api/client')
  const { load, known, signIn } = useSession()
  await load()
  expect(known.value).toBe(false)
  await signIn('ines', 'corals')
  expect(known.value).toBe(true)
  await api.dropAsset('a')
  expect(headers.at(-1)).toEqual({ 'X-CSRF-Token': 'mine' })
  ended = true
  await expect(api.dropAsset('a')).rejects.toThrow('Sign in first.')
  expect(known.value).toBe(false)
})

it('comes in by a link in the address, and takes it out of there', async () => {
  vi.stubGlobal('location', { hash: '#link=secret', pathname: '/' })
  const asked = fakeService(({ path }) => ({
    body: path.endsWith('/link') ? state({ known: true, link_project: 'p' }) : state(),
  }))
  const { useSession } = await import('./useSession')
  const { load, session } = useSession()
  await load()
  expect(asked.at(-1)).toMatchObject({ path: '/api/session/link', body: { link: 'secret' } })
  expect(session.value?.link_project).toBe('p')
  expect(history.replaceState).toHaveBeenCalledWith(null, '', '/')
})

it('says why a link does not work', async () => {
  vi.stubGlobal('location', { hash: '#link=old', pathname: '/' })
  fakeService(({ path }) =>
    path.endsWith('/link')
      ? { status: 404, body: { code: 'not found', message: 'This link does not work.' } }
      : { body: state() },
  )
  const { useSession } = await import('./useSession')
  const { load, trouble, known } = useSession()
  await load()
  expect(trouble.value).toBe('This link does not work.')
  expect(known.value).toBe(false)
})
