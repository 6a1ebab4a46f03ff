import type { ReactNode } from 'react';
import { Button } from './Button';
import { Sheet } from './Sheet';

interface Props {
  title: string;
  /** What can be said to it, the likeliest first. */
  answers: readonly (readonly [words: string, act: () => void])[];
  /** What leaving it as it is is called. */
  leave: string;
  onLeave: () => void;
  children: ReactNode;
}

/** A sheet that asks before something is done. The key that opened it answers nothing; Escape leaves all as it is. */
export function Question({ title, answers, leave, onLeave, children }: Props) {
  return (
    <Sheet open asks title={title} onClose={onLeave}>
      {children}
      <p className="mt-4 flex flex-wrap gap-2">
        {answers.map(([words, act]) => (
          <Button key={words} large onClick={act}>
            {words}
          </Button>
        ))}
        <Button large look="plain" onClick={onLeave}>
          {leave}
        </Button>
      </p>
    </Sheet>
  );
}
