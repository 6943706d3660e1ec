import { defineView } from '../kind-view'
import ProfileCard from './ProfileCard.vue'
import { register } from './register'

export const profileView = defineView({
  in: 'profiles',
  stage: 'reach',
  layer: { id: 'profiles', name: 'Profiles', strokes: [] },
  tone: 'text-pine',
  card: ProfileCard,
  painters: [],
  hits: [],
  register,
})
