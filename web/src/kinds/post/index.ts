import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import { drawPosts } from './draw'
import { postTool } from './place-post'

export const postView = defineView({
  in: 'posts',
  stage: 'cast',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  painters: [
    {
      on: 'over',
      order: 41,
      layer: PLACES_LAYER.id,
      draw: (pen, { level, chosen }) => drawPosts(pen, level, chosen),
    },
  ],
  tools: [postTool],
})
