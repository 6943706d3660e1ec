import type { FormatOf } from '../format'
import { readGeoJson } from './read'

export const geoJson: FormatOf<'features'> = {
  id: 'geo',
  word: 'GeoJSON',
  endings: ['geojson', 'json'],
  gives: 'features',
  read: readGeoJson,
}
