import type { EngineInput } from '@rackle/core/engine';
import type { HostCommand, HostEvent } from '../protocol';

type ShowCommand = Extract<HostCommand, { type: 'show' | 'changed' | 'audition' }>;

/**
 * The show as pages hand it over: whole at first, then by numbered changes. Where a number is missing nothing is made up:
 * the whole show is asked for, and what comes meanwhile waits for it.
 */
export class ShowFeed {
  /** Of the last that was taken; null: there is no show yet, or a change was missed. */
  private last: number | null = null;

  constructor(private readonly send: (event: HostEvent) => void) {}

  /** @returns what it means for the engine; null: nothing. */
  take(command: ShowCommand): EngineInput | null {
    switch (command.type) {
      case 'audition':
        return this.last === null ? null : { type: 'audition', audition: command.audition };
      case 'show': {
        const { show, setlistId, place, number } = command;
        this.took(number);
        return { type: 'show', show, setlistId, place };
      }
      case 'changed': {
        const { put, gone, setlistId, number } = command;
        if (this.last === null || number !== this.last + 1) {
          this.last = null;
          this.send({ type: 'askShow' });
          return null;
        }
        this.took(number);
        return { type: 'changed', news: { put, gone }, setlistId };
      }
    }
  }

  private took(number: number): void {
    this.last = number;
    this.send({ type: 'took', number });
  }
}
