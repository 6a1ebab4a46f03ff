import type { ButtonHTMLAttributes } from 'react';

type Look = 'framed' | 'plain' | 'filled';

const LOOKS: Record<Look, string> = {
  framed: 'border border-ink px-3 hover:bg-ground2 active:bg-ink active:text-ground',
  plain: 'px-2 underline decoration-dotted underline-offset-4 hover:decoration-solid',
  filled: 'bg-ink text-ground px-3 hover:opacity-85',
};

/** A verb. At least 36 px high on pages, 44 with `large`. */
export function Button({
  look = 'framed',
  large = false,
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look; large?: boolean }) {
  return (
    <button
      type="button"
      className={`${large ? 'min-h-11' : 'min-h-9'} whitespace-nowrap rounded-sm font-bold disabled:opacity-40 disabled:pointer-events-none ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
