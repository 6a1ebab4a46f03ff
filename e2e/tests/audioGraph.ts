import type { CDPSession, Page } from '@playwright/test';
import { hostOf } from './rackle';

/** The live nodes of what plays in a page, as the browser itself counts them. */
export class AudioGraph {
  /** Those that play; offline ones are left out. */
  readonly contexts: string[] = [];
  private readonly nodes = new Map<string, string>();

  private constructor(private readonly session: CDPSession) {}

  /** To be called when the page is open and before its sound starts. */
  static async watch(page: Page): Promise<AudioGraph> {
    const frame = await hostOf(page);
    // A frame with a process of its own has a session of its own, too.
    const session = await page
      .context()
      .newCDPSession(frame)
      .catch(() => page.context().newCDPSession(page));
    const graph = new AudioGraph(session);
    session.on('WebAudio.contextCreated', ({ context }) => {
      if (context.contextType === 'realtime') graph.contexts.push(context.contextId);
    });
    // What is measured offline is no part of what plays.
    session.on('WebAudio.audioNodeCreated', ({ node }) => {
      if (graph.contexts.includes(node.contextId)) graph.nodes.set(node.nodeId, node.nodeType);
    });
    session.on('WebAudio.audioNodeWillBeDestroyed', ({ nodeId }) => graph.nodes.delete(nodeId));
    await session.send('WebAudio.enable');
    return graph;
  }

  /** How many nodes live once what nobody holds has been collected. */
  async live(): Promise<number> {
    for (let i = 0; i < 3; i++) await this.session.send('HeapProfiler.collectGarbage');
    return this.nodes.size;
  }

  /** By type, the most first: to see what stays. */
  byType(): [string, number][] {
    const counts = new Map<string, number>();
    for (const type of this.nodes.values()) counts.set(type, (counts.get(type) ?? 0) + 1);
    return [...counts].sort(([, a], [, b]) => b - a);
  }
}
