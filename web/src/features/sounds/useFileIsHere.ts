import { useEffect, useState } from 'react';
import { fileAddress } from '../../files/fileAddress';

/** Whether the server has a file; null while that is not known. */
export function useFileIsHere(hash: string): boolean | null {
  const [isHere, setIsHere] = useState<boolean | null>(null);
  useEffect(() => {
    let asked = true;
    fetch(fileAddress(hash), { method: 'HEAD' }).then(
      (answer) => {
        if (asked) setIsHere(answer.status !== 404);
      },
      () => undefined,
    );
    return () => {
      asked = false;
    };
  }, [hash]);
  return isHere;
}
