import { showJsonSchema } from '@rackle/core/formats';
import { KINDS, KIND_NAMES } from '@rackle/core/show';
import { z } from 'zod';
import { AsideRequest, EditRequest } from '../edits/edits.service';
import { PROBLEMS } from './problem';

const AGGREGATES = KIND_NAMES.map((kind) => [KINDS[kind].path, KINDS[kind].noun, KINDS[kind].schema] as const);

const json = (schema: object): object => ({ content: { 'application/json': { schema } } });
const problem = (description: string): object => ({
  description,
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
});
const parameter = (name: string): object => ({ name, in: 'path', required: true, schema: { type: 'string' } });
const header = (name: string, description: string): object => ({
  name,
  in: 'header',
  schema: { type: 'string' },
  description,
});

const got = (summary: string, description: string, ...names: string[]): object => ({
  ...(names.length > 0 ? { parameters: names.map(parameter) } : {}),
  get: { summary, responses: { 200: { description }, ...(names.length > 0 ? { 404: problem('Not there') } : {}) } },
});
const queried = (name: string, description: string): object => ({ name, in: 'query', schema: {}, description });

/** What is kept of the past. */
const PAST = {
  '/api/v1/history': {
    parameters: [
      queried('kind', 'of this kind only'),
      queried('id', 'of this thing only'),
      queried('before', 'older than the state of this number'),
    ],
    get: {
      summary: 'What was saved, of everything or of one thing, newest first, at most 200',
      responses: { 200: { description: '`versions`, and whether there `isMore`' } },
    },
  },
  '/api/v1/history/deleted': got('What is there no more, with its last state', 'A list, the newest deletion first'),
  '/api/v1/history/{number}': got('One saved state, with its body', 'Found', 'number'),
  '/api/v1/history/{number}/note': {
    parameters: [parameter('number')],
    put: {
      summary: 'Give a state a note, for which it is kept for ever; an empty one takes it away',
      requestBody: json({ type: 'object', properties: { note: { type: 'string', maxLength: 200 } } }),
      responses: { 204: { description: 'Noted' }, 404: problem('Not there'), 422: problem('Not valid') },
    },
  },
  '/api/v1/states': got('States of the whole show under names', 'A list, newest first'),
  '/api/v1/states/{id}': {
    ...got('One named state, with all its bodies', 'Found', 'id'),
    put: {
      summary: 'Name what stands now, or give a named state another name',
      requestBody: json({ type: 'object', properties: { name: { type: 'string', minLength: 1, maxLength: 200 } } }),
      responses: { 204: { description: 'Named' }, 422: problem('Not valid') },
    },
    delete: { summary: 'Let a name go', responses: { 204: { description: 'Gone' }, 404: problem('Not there') } },
  },
  '/api/v1/backups': got('Copies of the database', 'A list, newest first'),
  '/api/v1/backups/{name}': got('The show in one of them', 'Its bodies', 'name'),
};

/** OpenAPI 3.1 description of the API; its schemas are made from the same Zod schemas that check what comes in. */
export function openApi(): object {
  const paths: Record<string, object> = {
    '/api/v1/show': {
      get: {
        summary: 'Everything, with revisions',
        responses: { 200: { description: 'The show', ...json({ type: 'object' }) } },
      },
    },
    '/api/v1/show/file': {
      get: {
        summary: 'The show file',
        responses: { 200: { description: 'A show file', ...json({ $ref: '#/components/schemas/Show' }) } },
      },
      post: {
        summary: 'Put a show file in, all of it or nothing',
        requestBody: json({ $ref: '#/components/schemas/Show' }),
        responses: {
          200: { description: 'How much came in' },
          413: problem('Too large'),
          422: problem('Not usable; nothing was changed'),
        },
      },
    },
  };
  const edit = (summary: string, schema: z.ZodType): object => ({
    post: {
      summary,
      requestBody: json(z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' })),
      responses: {
        200: { description: 'Saved, or saved before: its id, the data id, and the revision of each item' },
        409: problem('Made for other data, or this id was saved with other content'),
        412: problem('Changed elsewhere; `items` lists each stale one with what stands there'),
        422: problem('Not valid'),
      },
    },
  });
  paths['/api/v1/edits'] = edit('Save an edit, all of it or nothing', EditRequest);
  paths['/api/v1/edits/aside'] = edit('Keep versions that were not taken, under a name', AsideRequest);
  paths['/api/v1/files'] = {
    get: { summary: 'Names of the files that are there', responses: { 200: { description: 'Their SHA-256' } } },
    post: {
      summary: 'Store a sample bank or a recording, as it is',
      parameters: [{ name: 'use', in: 'query', required: true, schema: { enum: ['bank', 'recording'] } }],
      requestBody: { content: { 'application/octet-stream': {} } },
      responses: {
        201: { description: 'Its SHA-256 and length' },
        413: problem('Too large'),
        422: problem('Not usable; nothing was stored'),
      },
    },
  };
  paths['/api/v1/files/{hash}'] = {
    parameters: [parameter('hash')],
    get: { summary: 'A stored file', responses: { 200: { description: 'Its bytes' }, 404: problem('Not there') } },
  };
  Object.assign(paths, PAST);
  for (const [path, noun] of AGGREGATES) {
    const body = json({ $ref: `#/components/schemas/${noun}` });
    paths[`/api/v1/${path}`] = {
      get: { summary: `Every ${noun} by name`, responses: { 200: { description: 'A list' } } },
    };
    paths[`/api/v1/${path}/{id}`] = {
      parameters: [parameter('id')],
      get: {
        summary: `One ${noun} with its revision`,
        responses: { 200: { description: 'Found', ...body }, 404: problem('Not there') },
      },
      put: {
        summary: `Save a ${noun}`,
        parameters: [
          header('If-Match', 'the revision that is changed, in quotes'),
          header('If-None-Match', '* for something new'),
        ],
        requestBody: body,
        responses: {
          200: { description: 'Saved' },
          412: problem('Changed elsewhere; `current` is what stands there'),
          422: problem('Not valid'),
          428: problem('No revision named'),
        },
      },
      delete: {
        summary: `Delete a ${noun}`,
        parameters: [header('If-Match', 'the revision that is deleted, in quotes')],
        responses: { 204: { description: 'Deleted' }, 409: problem('In use'), 412: problem('Changed elsewhere') },
      },
    };
    paths[`/api/v1/${path}/{id}/history`] = {
      parameters: [parameter('id')],
      get: { summary: 'Its last 200 saved states, newest first', responses: { 200: { description: 'A list' } } },
    };
    paths[`/api/v1/${path}/{id}/history/{revision}`] = {
      parameters: [parameter('id'), parameter('revision')],
      get: { summary: 'One earlier state', responses: { 200: { description: 'Found' }, 404: problem('Not there') } },
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Rackle',
      version: '1',
      description:
        'Songs, setlists, instruments and gear lists. Errors are RFC 9457 problem documents with a stable `code`.',
    },
    paths,
    components: {
      schemas: {
        ...Object.fromEntries(
          AGGREGATES.map(([, noun, schema]) => [noun, z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' })]),
        ),
        Show: showJsonSchema(),
        Problem: {
          type: 'object',
          required: ['type', 'code', 'title', 'status', 'detail'],
          properties: {
            type: { type: 'string' },
            code: { enum: Object.keys(PROBLEMS) },
            title: { type: 'string' },
            status: { type: 'integer' },
            detail: { type: 'string' },
            path: { type: 'array' },
          },
        },
      },
    },
  };
}
