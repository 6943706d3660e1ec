import { expect, it } from 'vitest'
import { ago, bytes, clock, count, metres, seconds } from './figures'

it('writes lengths with as many digits as one reads', () => {
  expect([0.417, 12.34, 286.4, 1240, -0.5].map(metres)).toEqual(['0.42 m', '12.3 m', '286 m', '1.24 km', '-0.50 m'])
})
it('writes times in words and as on a clock', () => {
  expect([4, 4.25, 52, 60, 232.4, 119.6].map(seconds)).toEqual([
    '4 s',
    '4.3 s',
    '52 s',
    '1 min 00 s',
    '3 min 52 s',
    '2 min 00 s',
  ])
  expect([0, 66.9, 300].map(clock)).toEqual(['0:00', '1:06', '5:00'])
  expect([5e3, 12e4, 72e5, 18e7].map(ago)).toEqual(['a moment ago', '2 min ago', '2 h ago', '2 d ago'])
})
it('counts things', () => {
  expect([count(1, 'stop'), count(4, 'stop'), count(20000, 'waypoint')]).toEqual([
    '1 stop',
    '4 stops',
    '20,000 waypoints',
  ])
})
it('tells room on a disk in units one reads', () => {
  expect([0, 900, 12_345, 2_345_678].map(bytes)).toEqual(['0 kB', '1 kB', '13 kB', '2.3 MB'])
})
