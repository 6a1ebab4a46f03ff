/** @jest-environment node */
import { afterEach, describe, expect, it } from '@jest/globals';
import { sendEdit, type EditMessage } from '../src/show/api';

const edit: EditMessage = { id: 'e1', label: 'try', dataId: 'here', items: [] };
const answering = (status: number, text: string): void => {
  globalThis.fetch = (() =>
    Promise.resolve({
      status,
      ok: status < 300,
      json: () => Promise.resolve().then(() => JSON.parse(text) as unknown),
    })) as never;
};
const problem = (code: string, over: object = {}): string =>
  JSON.stringify({ type: `urn:rackle:problem:${code}`, code, detail: 'Words.', ...over });
const { fetch } = globalThis;
afterEach(() => {
  globalThis.fetch = fetch;
});

describe('what came of sending an edit', () => {
  it('is saved only by an answer that echoes the edit and the data', async () => {
    answering(200, JSON.stringify({ id: 'e1', dataId: 'here', serial: 4, items: [] }));
    expect(await sendEdit(edit)).toEqual({ kind: 'saved', serial: 4, items: [] });
    for (const other of [{ id: 'e2', dataId: 'here' }, { id: 'e1', dataId: 'there' }, {}]) {
      answering(200, JSON.stringify(other));
      expect((await sendEdit(edit)).kind).toBe('away');
    }
  });

  it('is refused only by a problem of our own that trying again cannot mend', async () => {
    answering(422, problem('broken-reference'));
    expect(await sendEdit(edit)).toEqual({ kind: 'refused', message: 'Words.' });
    answering(413, '<html>too large, says a proxy</html>');
    expect((await sendEdit(edit)).kind).toBe('away');
    answering(422, JSON.stringify({ detail: 'of another program' }));
    expect((await sendEdit(edit)).kind).toBe('away');
  });

  it('is stale with what stands there, or of other data', async () => {
    const items = [{ kind: 'songs', id: 'a', current: null }];
    answering(412, problem('stale', { items }));
    expect(await sendEdit(edit)).toEqual({ kind: 'stale', items });
    answering(409, problem('other-data'));
    expect(await sendEdit(edit)).toEqual({ kind: 'otherData' });
  });

  it('is nothing that is known of, and tried again, for anything else: cut JSON, 403, 404 of an older server, 5xx, nobody', async () => {
    for (const [status, text] of [
      [200, '{"id":"e1","dataI'],
      [403, problem('not-from-here')],
      [404, '<p>no</p>'],
      [503, problem('storage-busy')],
      [500, ''],
    ] as const) {
      answering(status, text);
      expect((await sendEdit(edit)).kind).toBe('away');
    }
    globalThis.fetch = (() => Promise.reject(new TypeError('nobody'))) as never;
    expect(await sendEdit(edit)).toEqual({ kind: 'away', message: 'The server does not answer.' });
  });
});
