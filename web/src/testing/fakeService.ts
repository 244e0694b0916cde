/** A stand-in for the service in unit tests: answers fetch by method and path, and remembers what was asked. */
import { vi } from 'vitest'

export interface Asked {
  method: string
  path: string
  body: Record<string, unknown>
}

type Answer = { status?: number; body?: unknown } | Error

export function fakeService(answer: (asked: Asked) => Answer | Promise<Answer>) {
  const asked: Asked[] = []
  vi.stubGlobal('Worker', undefined)
  vi.stubGlobal('fetch', async (path: string, options: { method?: string; body?: string } = {}) => {
    const one = {
      method: options.method ?? 'GET',
      path,
      body: options.body ? (JSON.parse(options.body) as unknown) : {},
    } as Asked
    asked.push(one)
    const given = await answer(one)
    if (given instanceof Error) throw given
    const { status = 200, body = {} } = given
    const bytes = body instanceof ArrayBuffer ? body : new ArrayBuffer(0)
    return { ok: status < 400, status, json: async () => body, arrayBuffer: async () => bytes }
  })
  return asked
}

/** Let everything that waits for an answer go on. */
export async function settle(rounds = 12): Promise<void> {
  for (let i = 0; i < rounds; i++) await new Promise((wake) => setTimeout(wake))
}
