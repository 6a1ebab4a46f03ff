import { Injectable, Inject } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';

/**
 * The one door to the database. SQLite has a single writer, so writes queue here; each runs in a transaction of its own,
 * whole or not at all.
 */
@Injectable()
export class Database {
  private last: Promise<unknown> = Promise.resolve();

  constructor(@Inject(DataSource) private readonly dataSource: DataSource) {}

  write<T>(work: (manager: EntityManager) => Promise<T>): Promise<T>;
  /** @param isCommitted runs once the transaction stands, before anything else is read or written. */
  write<T, R>(work: (manager: EntityManager) => Promise<T>, isCommitted: (done: T) => R): Promise<R>;
  write<T, R>(work: (manager: EntityManager) => Promise<T>, isCommitted?: (done: T) => R): Promise<T | R> {
    const run = this.last.then(async () => {
      const done = await this.dataSource.transaction(work);
      return isCommitted ? isCommitted(done) : done;
    });
    this.last = run.catch(() => undefined);
    return run;
  }

  /** Reads wait for the writes before them, so that nobody sees half of one. */
  read<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const run = this.last.then(() => work(this.dataSource.manager));
    this.last = run.catch(() => undefined);
    return run;
  }
}
