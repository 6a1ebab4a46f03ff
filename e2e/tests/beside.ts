import type { Browser, CDPSession } from '@playwright/test';

interface Answer {
  id?: number;
  result?: { result: { value?: unknown } };
}

/** An answer that takes longer does not come. */
const LOST_MS = 5000;

/** A page as seen past the driver's own idea of it, by the browser's protocol. */
export class Beside {
  private count = 0;
  private readonly waiting = new Map<number, (answer: Answer) => void>();

  private constructor(
    private readonly browser: CDPSession,
    private readonly sessionId: string,
  ) {
    browser.on('Target.receivedMessageFromTarget', ({ message }) => {
      const answer = JSON.parse(message) as Answer;
      if (answer.id !== undefined) this.waiting.get(answer.id)?.(answer);
    });
  }

  /** The page whose address begins so. */
  static async page(browser: Browser, address: string): Promise<Beside> {
    const session = await browser.newBrowserCDPSession();
    const { targetInfos } = await session.send('Target.getTargets');
    const target = targetInfos.find(({ type, url }) => type === 'page' && url.startsWith(address))!;
    const { sessionId } = await session.send('Target.attachToTarget', { targetId: target.targetId, flatten: false });
    return new Beside(session, sessionId);
  }

  /** Undefined where an answer got lost: it can be asked again. */
  async evaluate(expression: string): Promise<unknown> {
    const id = ++this.count;
    const answer = new Promise<Answer>((resolve) => {
      this.waiting.set(id, resolve);
      setTimeout(() => resolve({}), LOST_MS);
    });
    const message = JSON.stringify({ id, method: 'Runtime.evaluate', params: { expression, returnByValue: true } });
    await this.browser.send('Target.sendMessageToTarget', { sessionId: this.sessionId, message });
    return (await answer).result?.result.value;
  }

  async text(selector: string): Promise<string> {
    return String(await this.evaluate(`document.querySelector(${JSON.stringify(selector)})?.textContent ?? ''`));
  }
}
