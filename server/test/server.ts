import 'reflect-metadata';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { Show } from '@rackle/core/show';
import request from 'supertest';
import { createApp } from '../src/createApp';

export const demoShow = (): Show =>
  JSON.parse(readFileSync(join(dirname(fileURLToPath(import.meta.url)), '../../demo/tern-ledge.json'), 'utf8')) as Show;

/** A server on a database of its own, for one test file. */
export class TestServer {
  private constructor(
    readonly app: NestExpressApplication,
    readonly folder: string,
  ) {}

  static async start(
    folder = mkdtempSync(join(tmpdir(), 'rackle-server-')),
    pages: string | null = null,
  ): Promise<TestServer> {
    const app = await createApp(join(folder, 'rackle.sqlite'), pages);
    await app.init();
    return new TestServer(app, folder);
  }

  get databaseFile(): string {
    return join(this.folder, 'rackle.sqlite');
  }

  call(method: 'get' | 'post' | 'put' | 'delete', path: string): request.Test {
    return request(this.app.getHttpServer())[method](path);
  }

  async import(show: Show): Promise<void> {
    await this.call('post', '/api/v1/show/file').send(show).expect(200);
  }

  async stop(keep = false): Promise<void> {
    await this.app.close();
    if (!keep) rmSync(this.folder, { recursive: true, force: true });
  }
}

export const song = (id: string, over: object = {}): object => ({ id, name: id, ...over });
