import { useEffect, useRef } from 'react';
import Markdown, { type Components } from 'react-markdown';
import { Link, useParams } from 'react-router';
import { ORDER, chapters, pictures, titleOf } from './texts';

const fileName = (address: string): string => address.slice(address.lastIndexOf('/') + 1).replace(/\.\w+$/, '');

/** How the guide's Markdown looks here, and where its links and pictures lead. */
const LOOKS: Components = {
  h1: ({ children }) => <h1 className="named text-4xl leading-tight">{children}</h1>,
  h2: ({ children }) => <h2 className="named mt-8 text-2xl">{children}</h2>,
  p: ({ children }) => <p className="mt-3">{children}</p>,
  ul: ({ children }) => <ul className="mt-2 list-disc pl-6">{children}</ul>,
  ol: ({ children }) => <ol className="mt-2 list-decimal pl-6">{children}</ol>,
  li: ({ children }) => <li className="mt-1">{children}</li>,
  blockquote: ({ children }) => (
    <blockquote className="mt-3 border-l-2 border-rule pl-4 text-[15px]">{children}</blockquote>
  ),
  code: ({ children }) => <code className="mono bg-ground2 px-1 text-[0.9em]">{children}</code>,
  pre: ({ children }) => <pre className="mono mt-3 overflow-x-auto bg-ground2 p-3 text-[13px]">{children}</pre>,
  img: ({ src, alt }) => (
    <img src={pictures.get(fileName(String(src)))} alt={alt} className="mt-4 w-full border border-rule" />
  ),
  a: ({ href = '', children }) =>
    chapters.has(fileName(href)) ? (
      <Link to={`/guide/${fileName(href)}`} className="underline decoration-dotted">
        {children}
      </Link>
    ) : (
      <span>{children}</span>
    ),
};

/** How to play with it, in plain words; the same texts as in `docs/`. */
export function GuidePage() {
  const { name = ORDER[0] } = useParams();
  const text = chapters.get(name);
  const page = useRef<HTMLDivElement>(null);
  useEffect(() => void page.current?.scrollTo(0, 0), [name]);
  return (
    <div ref={page} className="flex h-full gap-10 overflow-y-auto px-4 py-4 max-[899px]:flex-col max-[899px]:gap-4">
      <nav aria-label="chapters" className="w-56 shrink-0">
        <p className="text-[13px] font-bold text-ink2">guide</p>
        <ul>
          {ORDER.map((chapter) => (
            <li key={chapter} className="border-b border-rule">
              <Link
                to={`/guide/${chapter}`}
                aria-current={chapter === name ? 'page' : undefined}
                className={`named flex min-h-10 items-center text-lg leading-5 ${chapter === name ? '' : 'text-ink2 hover:text-ink'}`}
              >
                {titleOf(chapters.get(chapter) ?? '')}
              </Link>
            </li>
          ))}
        </ul>
      </nav>
      <article className="min-w-0 max-w-3xl flex-1 pb-16 text-[17px] leading-7">
        {text === undefined ? (
          <h1 className="named text-4xl">There is no such chapter.</h1>
        ) : (
          <Markdown components={LOOKS}>{text}</Markdown>
        )}
      </article>
    </div>
  );
}
