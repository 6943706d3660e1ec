import { levelSchema } from '@tidytrail/core/level'
import { z } from 'zod'
import { assetHeadSchema } from './assets'
import {
  EDIT_ID_HEADER,
  healthSchema,
  levelListSchema,
  newLevelSchema,
  PATCH_TYPE,
  patchSchema,
  revisionListSchema,
  savedSchema,
  storageSchema,
} from './levels'
import { jobSchema, newJobSchema } from './jobs'
import { rehearsalAboutSchema, rehearsalListSchema, rehearsalMadeSchema, rehearsalSchema } from './rehearsals'
import { PROBLEM_TYPE, problemSchema } from './problem'

interface Operation {
  summary: string
  body?: { type: string; schema: z.ZodType }
  /** Header parameters, by name: is it needed, and what is it for? */
  headers?: Record<string, { required: boolean; description: string }>
  query?: Record<string, string>
  answer: { status: number; schema?: z.ZodType; description: string }
  problems: number[]
}

/** What any call may be answered with. */
const ALWAYS = [400, 401, 408, 421, 429, 431, 500, 503]
/** What any call that changes something may be answered with besides. */
const WRITING = [403, 507]
/** What any call with a body may be answered with besides. */
const SENDING = [413, 415]

const ifMatch = { 'if-match': { required: true, description: 'The ETag of the revision the change was made to.' } }
const mayMatch = { 'if-match': { required: false, description: 'The ETag it must have; otherwise any.' } }
const editId = {
  [EDIT_ID_HEADER]: { required: false, description: 'Names the batch; sending it again keeps it once.' },
}

const OPERATIONS: Record<string, Record<string, Operation>> = {
  '/api/health': {
    get: {
      summary: 'Is the server up, and does it reach its database?',
      answer: { status: 200, schema: healthSchema, description: 'It is.' },
      problems: [503],
    },
  },
  '/api/storage': {
    get: {
      summary: 'What is kept, and how much room it takes',
      answer: { status: 200, schema: storageSchema, description: 'Counts and bytes.' },
      problems: [],
    },
  },
  '/api/levels': {
    get: {
      summary: 'The levels on the shelf',
      answer: { status: 200, schema: levelListSchema, description: 'All levels, newest change first.' },
      problems: [],
    },
    post: {
      summary: 'Make a level: blank, a copy, or from a document',
      body: { type: 'application/json', schema: newLevelSchema },
      answer: { status: 201, schema: savedSchema, description: 'Made.' },
      problems: [400, 404, 422],
    },
  },
  '/api/levels/{id}': {
    get: {
      summary: 'A level document',
      answer: { status: 200, schema: levelSchema, description: 'The document; its revision is the ETag.' },
      problems: [404],
    },
    patch: {
      summary: 'Change a level by a JSON Patch (RFC 6902)',
      headers: { ...ifMatch, ...editId },
      body: { type: PATCH_TYPE, schema: patchSchema },
      answer: { status: 200, schema: savedSchema, description: 'Kept: it is in the database.' },
      problems: [400, 404, 412, 422, 428],
    },
    delete: {
      summary: 'Take a level off the shelf',
      headers: mayMatch,
      answer: { status: 204, description: 'Gone; it can be restored for some time.' },
      problems: [400, 404, 412],
    },
  },
  '/api/assets/{hash}': {
    put: {
      summary: 'Send an asset: a mesh, heights or a picture, named by the SHA-256 of its bytes',
      body: { type: 'application/octet-stream', schema: z.string() },
      answer: { status: 201, schema: assetHeadSchema, description: 'Kept; 200 when it was here already.' },
      problems: [404, 422],
    },
    get: {
      summary: 'The bytes of an asset',
      answer: { status: 200, description: 'The bytes, which never change.' },
      problems: [404],
    },
  },
  '/api/levels/{id}/jobs': {
    post: {
      summary: 'Rehearse a level as it is now with many seeds',
      body: { type: 'application/json', schema: newJobSchema },
      answer: { status: 201, schema: jobSchema, description: 'In the queue.' },
      problems: [404, 422],
    },
  },
  '/api/jobs/{id}': {
    get: {
      summary: 'How a job stands',
      answer: { status: 200, schema: jobSchema, description: 'Its state, and what came of the parts that are done.' },
      problems: [404],
    },
    delete: {
      summary: 'Cancel a job; what is done of it stays',
      answer: { status: 204, description: 'Cancelled.' },
      problems: [404],
    },
  },
  '/api/jobs/{id}/events': {
    get: {
      summary: 'Progress of a job as Server-Sent Events',
      answer: { status: 200, description: 'An event for each change, with the results since; ends with the job.' },
      problems: [404],
    },
  },
  '/api/levels/{id}/rehearsals': {
    get: {
      summary: 'The kept rehearsals of a level',
      answer: { status: 200, schema: rehearsalListSchema, description: 'The newest first.' },
      problems: [404],
    },
    post: {
      summary: 'Begin to keep a rehearsal; its bytes follow in stretches',
      body: { type: 'application/json', schema: rehearsalAboutSchema },
      answer: { status: 201, schema: rehearsalMadeSchema, description: 'Begun; nobody sees it yet.' },
      problems: [404],
    },
  },
  '/api/rehearsals/{id}/stretches/{number}': {
    put: {
      summary: 'Send a stretch of a rehearsal, from 0 on, 1 MB each but the last',
      body: { type: 'application/octet-stream', schema: z.string() },
      answer: { status: 204, description: 'Kept.' },
      problems: [404, 409, 422],
    },
  },
  '/api/rehearsals/{id}/whole': {
    post: {
      summary: 'All stretches have been sent',
      answer: { status: 200, schema: rehearsalSchema, description: 'It is kept, and can be seen.' },
      problems: [404, 409],
    },
  },
  '/api/rehearsals/{id}': {
    get: {
      summary: 'The bytes of a kept rehearsal',
      answer: { status: 200, description: 'The bytes, which never change.' },
      problems: [404],
    },
    delete: {
      summary: 'Throw a kept rehearsal away',
      answer: { status: 204, description: 'Gone.' },
      problems: [404],
    },
  },
  '/api/levels/{id}/restore': {
    post: {
      summary: 'Put a level back on the shelf',
      answer: { status: 200, schema: savedSchema, description: 'Back.' },
      problems: [404],
    },
  },
  '/api/levels/{id}/revisions': {
    get: {
      summary: 'The changes of a level after a revision, oldest first',
      query: { since: 'Revision after which to begin; 0 for all.' },
      answer: { status: 200, schema: revisionListSchema, description: 'The changes, as many as fit one answer.' },
      problems: [400, 404, 410],
    },
  },
}

const problemsOf = (verb: string, { problems, body }: Operation): number[] =>
  [...new Set([...problems, ...ALWAYS, ...(verb === 'get' ? [] : WRITING), ...(body ? SENDING : [])])].sort(
    (a, b) => a - b,
  )

const jsonSchema = (schema: z.ZodType) => z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' })

/** The interface as an OpenAPI 3.1 document, made from the schemas the server checks with. */
export function openApiDocument(version: string) {
  const paths: Record<string, Record<string, unknown>> = {}
  for (const [path, operations] of Object.entries(OPERATIONS)) {
    paths[path] = {}
    for (const [verb, o] of Object.entries(operations)) {
      const parameters = [
        ...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
          name,
          in: 'path',
          required: true,
          schema: { type: 'string' },
        })),
        ...Object.entries(o.headers ?? {}).map(([name, h]) => ({
          name,
          in: 'header',
          ...h,
          schema: { type: 'string' },
        })),
        ...Object.entries(o.query ?? {}).map(([name, description]) => ({
          name,
          in: 'query',
          description,
          schema: { type: 'integer' },
        })),
      ]
      const problem = { content: { [PROBLEM_TYPE]: { schema: { $ref: '#/components/schemas/Problem' } } } }
      paths[path][verb] = {
        summary: o.summary,
        parameters,
        ...(o.body
          ? { requestBody: { required: true, content: { [o.body.type]: { schema: jsonSchema(o.body.schema) } } } }
          : {}),
        responses: {
          [o.answer.status]: {
            description: o.answer.description,
            ...(o.answer.schema ? { content: { 'application/json': { schema: jsonSchema(o.answer.schema) } } } : {}),
          },
          ...Object.fromEntries(
            problemsOf(verb, o).map((status) => [status, { description: PROBLEM_TITLES[status], ...problem }]),
          ),
        },
      }
    }
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Tidy Trail', version },
    paths,
    components: { schemas: { Problem: jsonSchema(problemSchema) } },
  }
}

/** What each error status means here. */
export const PROBLEM_TITLES: Record<number, string> = {
  400: 'The request cannot be read',
  401: 'An access token is needed',
  403: 'Not allowed from there',
  404: 'There is no such thing',
  405: 'Not a method for this address',
  408: 'It came too slowly',
  410: 'Not known any more',
  412: 'The level has changed since',
  413: 'Too large',
  415: 'Not a format this can read',
  421: 'Not a name of this server',
  422: 'The content is not valid',
  431: 'Too much before the content',
  428: 'Say which revision this changes',
  429: 'Too many requests',
  500: 'Something went wrong here',
  503: 'Not just now',
  507: 'No room left',
}
