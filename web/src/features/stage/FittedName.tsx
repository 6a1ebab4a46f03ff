import { useLayoutEffect, useRef } from 'react';

const LINE_HEIGHT = 1.05;
const LARGEST_PX = 340;

/**
 * A name as large as its room, on up to three lines. Measured once for each name and room (one line at 100 px, the rest
 * is reckoned), with room for what hangs below the line,
 * so that a recall costs the page a single layout.
 */
export function FittedName({ text }: { text: string }) {
  const box = useRef<HTMLDivElement>(null);
  const line = useRef<HTMLHeadingElement>(null);
  useLayoutEffect(() => {
    const fit = (): void => {
      const { clientWidth, clientHeight } = box.current!;
      const { style } = line.current!;
      style.whiteSpace = 'nowrap';
      style.fontSize = '100px';
      const oneLinePx = (clientWidth / Math.max(1, line.current!.scrollWidth)) * 98;
      const most = Math.min(3, text.split(' ').length);
      let best = 0;
      for (let lines = 1; lines <= most; lines++) {
        // Words do not break evenly: a fifth is kept back for that.
        const size = Math.min(
          oneLinePx * lines * (lines === 1 ? 1 : 0.8),
          (clientHeight * 0.84) / (lines * LINE_HEIGHT),
          LARGEST_PX,
        );
        if (size > best * 1.15) {
          best = size;
          style.whiteSpace = lines === 1 ? 'nowrap' : 'normal';
        }
      }
      style.fontSize = `${Math.max(36, best)}px`;
    };
    fit();
    void document.fonts?.ready.then(() => {
      if (box.current) fit();
    });
    const watcher = new ResizeObserver(fit);
    watcher.observe(box.current!);
    return () => watcher.disconnect();
  }, [text]);
  return (
    <div ref={box} className="flex min-h-0 flex-1 items-center overflow-hidden">
      <h1 ref={line} className="named text-balance" style={{ lineHeight: LINE_HEIGHT }} data-testid="stage-name">
        {text}
      </h1>
    </div>
  );
}
