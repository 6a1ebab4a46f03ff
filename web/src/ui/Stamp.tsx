/** Trouble in one or two words: ink ground, paper lettering. */
export function Stamp({ children }: { children: string }) {
  return (
    <span className="inline-block -rotate-1 whitespace-nowrap bg-ink px-1.5 py-0.5 text-xs font-bold text-ground">
      {children}
    </span>
  );
}
