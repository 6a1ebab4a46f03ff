import { randomUUID } from 'node:crypto';
import { Injectable, Inject } from '@nestjs/common';
import { readShowDocument } from '@rackle/core/formats';
import { KIND_NAMES, SHOW_FORMAT, SHOW_VERSION, showFaults, type Kind, type Kinds, type Show } from '@rackle/core/show';
import { BodiesService, type Saved, type UnreadableRow } from '../aggregates/bodies.service';
import { EditsService } from '../edits/edits.service';
import { Problem } from '../http/problem';

/** Everything that is stored, at one serial. */
export type SavedShow = { [K in Kind]: Saved<Kinds[K]>[] } & {
  dataId: string;
  /** Grows with every save. */
  serial: number;
  unreadable: UnreadableRow[];
};

/** The whole show at once: for a page that opens, for the show file in and out. */
@Injectable()
export class ShowsService {
  constructor(
    @Inject(BodiesService) private readonly bodies: BodiesService,
    @Inject(EditsService) private readonly edits: EditsService,
  ) {}

  /** One moment's state: nothing is written while it is gathered. */
  saved(): SavedShow {
    const { dataId, serial, unreadable } = this.bodies;
    const lists = Object.fromEntries(KIND_NAMES.map((kind) => [kind, this.bodies.all(kind)]));
    return { dataId, serial, unreadable, ...lists } as SavedShow;
  }

  get isEmpty(): boolean {
    return this.bodies.unreadable.length === 0 && KIND_NAMES.every((kind) => this.bodies.all(kind).length === 0);
  }

  export(): Show {
    const lists = KIND_NAMES.map((kind) => [kind, this.bodies.all(kind).map(({ body }) => body)]);
    const unreadable = this.bodies.unreadable.map(({ kind, id, name, text }) => ({ kind, id, name, text }));
    return {
      format: SHOW_FORMAT,
      version: SHOW_VERSION,
      ...Object.fromEntries(lists),
      ...(unreadable.length > 0 ? { unreadable } : {}),
    } as Show;
  }

  /**
   * Puts a show file in, all of it or nothing. What has the same id takes the place of what was there, which stays in
   * the history.
   * @throws Problem `not-a-show`, `newer-version`, `invalid`, `broken-reference`
   */
  async import(document: unknown): Promise<{ [K in Kind]: number }> {
    const read = readShowDocument(document);
    if (!read.ok) throw new Problem(read.error.code, `${read.error.message}. Nothing was changed.`, read.error.path);
    const show = read.value;
    const [fault] = showFaults(show);
    if (fault) throw new Problem('broken-reference', `${fault.message}. Nothing was changed.`, fault.path);
    const items = KIND_NAMES.flatMap((kind) =>
      show[kind].map((body) => ({
        kind,
        id: body.id as string,
        revision: this.bodies.revisionOf(kind, body.id),
        body,
      })),
    );
    if (items.length > 0) await this.edits.save({ id: randomUUID(), label: 'open a show file', items });
    return Object.fromEntries(KIND_NAMES.map((kind) => [kind, show[kind].length])) as { [K in Kind]: number };
  }
}
