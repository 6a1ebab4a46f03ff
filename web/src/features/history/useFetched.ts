import { useEffect, useState } from 'react';
import { useLatest } from '../../ui/useLatest';
import type { Answer } from './historyApi';

/**
 * What the server says to a question, asked anew when its key becomes another one.
 * @param stamp asks again, too, when it changes; what is there stays until the answer comes
 */
export function useFetched<T>(key: string, ask: () => Promise<Answer<T>>, stamp: unknown = null) {
  const [found, setFound] = useState<{ key: string; answer: Answer<T> } | null>(null);
  const [turn, setTurn] = useState(0);
  const latest = useLatest(ask);
  useEffect(() => {
    let isWanted = true;
    void latest().then((answer) => {
      if (isWanted) setFound({ key, answer });
    });
    return () => {
      isWanted = false;
    };
  }, [key, turn, stamp, latest]);
  // What was there stays until the next answer of the same question is.
  const answer = found?.key === key ? found.answer : null;
  return {
    value: answer?.ok ? answer.value : null,
    problem: answer?.ok === false ? answer.problem : null,
    again: () => setTurn((before) => before + 1),
  };
}
