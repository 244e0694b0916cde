import { expect, it } from 'vitest'
import { toHtml } from './markup'

it('renders what help is written in', () => {
  expect(toHtml('Walls are ``even``.\n\n- one\n- two')).toBe(
    '<p>Walls are <code>even</code>.</p>\n<ul>\n<li>one</li>\n<li>two</li>\n</ul>\n',
  )
})

it('lets nothing through that would do or fetch something', () => {
  const html = toHtml('<img src=x onerror=alert(1)> [a](javascript:alert(1)) ![p](http://elsewhere.example/p.png)')
  expect(html).not.toMatch(/<img|<a /)
})
