import { expect, it } from 'vitest'
import { compareNames } from './names'

it('names are in the order people look for them: by their numbers, whatever their case and accents', () => {
  const names = ['Gate 10', 'gate 2', 'Gate 9', 'Älter', 'Azure', 'Zebra']
  expect([...names].sort(compareNames)).toEqual(['Älter', 'Azure', 'gate 2', 'Gate 9', 'Gate 10', 'Zebra'])
  expect(compareNames('Quay', 'Quay')).toBe(0)
})
