import type { CSSProperties, ReactNode } from 'react';

/** A flat strip of tape in one of the eight kinds. */
export function Tape({
  tape,
  className = '',
  style,
  children,
  ...rest
}: {
  tape: string;
  className?: string;
  style?: CSSProperties;
  children?: ReactNode;
  title?: string;
}) {
  return (
    <span className={`tape tape-${tape} ${className}`} style={style} {...rest}>
      {children}
    </span>
  );
}

/** A small square of tape with a letter. */
export function TapeLetter({ tape, letter }: { tape: string; letter: string }) {
  return (
    <Tape tape={tape} className="named inline-grid size-5 shrink-0 place-items-center text-xs leading-none">
      <span className="tape-words px-px">{letter}</span>
    </Tape>
  );
}

/** A, B, … Z, then A2 and so on. */
export const letterOf = (index: number): string =>
  String.fromCharCode(65 + (index % 26)) + (index < 26 ? '' : String(Math.floor(index / 26) + 1));
