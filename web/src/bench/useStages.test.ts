import { describe, expect, it, vi } from 'vitest'

let mounted: () => Promise<void> = () => Promise.resolve()
vi.mock('vue', async (original) => ({
  ...(await original<typeof import('vue')>()),
  onMounted: (hook: () => Promise<void>) => (mounted = hook),
}))

describe('parts of the page', () => {
  it('come one after the other, with a pause before each', async () => {
    const { useStages } = await import('./useStages')
    const seen: number[] = []
    const stage = useStages(3, (next) => {
      seen.push(next)
      return Promise.resolve()
    })
    expect(stage.value).toBe(0)
    await mounted()
    expect(seen).toEqual([1, 2, 3])
    expect(stage.value).toBe(3)
  })
})
