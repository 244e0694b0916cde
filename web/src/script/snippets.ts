/** Texts to begin with, for the common jobs. */
export interface Snippet {
  title: string
  each: string
  text: string
}

export const SNIPPETS: Snippet[] = [
  {
    title: 'move along the normal by noise',
    each: 'point',
    text: 'lift: number(0, 1) = 0.1\nscale: number(0, 10) = 3.0\nhere.position = position + normal * lift * noise(position * scale, 4)\n',
  },
  {
    title: 'mark by nearness',
    each: 'point',
    text: 'reef: geometry\nreach: number(0, 2) = 0.2\nif reef.closest(position, reach).found:\n    here.touched = True\n',
  },
  {
    title: 'count what is near',
    each: 'point',
    text: 'reef: geometry\nreach: number(0, 2) = 0.2\nhere.crowd = len(reef.near(position, reach, most=100))\n',
  },
  { title: 'mean of the neighbours', each: 'point', text: 'here.smooth_height = mean(here.neighbours.position).y\n' },
  {
    title: 'give points what their faces have',
    each: 'face',
    text: 'for p in here.points:\n    p.total_area += area / len(here.points)\n',
  },
  {
    title: 'remove small faces',
    each: 'face',
    text: 'smallest: number(0, 1) = 0.001\nif area < smallest:\n    remove(here)\n',
  },
  {
    title: 'a line of points, joined',
    each: 'once',
    text: 'count: integer(2, 200) = 12\npoints = [add_point((i / (count - 1), 0, 0)) for i in range(count)]\nadd_curve(points)\n',
  },
  {
    title: 'a bristle on every point',
    each: 'point',
    text: 'size: number(0, 1) = 0.1\ntip = add_point(position + normal * size)\nadd_curve([here, tip])\n',
  },
  {
    title: 'a function of its own',
    each: 'point',
    text: 'def bump(x, width):\n    return exp(-(x / width) ** 2)\n\nhere.position.y += 0.2 * bump(length(position.xz), 0.3)\n',
  },
]
