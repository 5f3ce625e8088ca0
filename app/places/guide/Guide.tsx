import { Marked, type Tokens } from 'marked';
import { useEffect, useMemo } from 'react';
import { useNavigate } from 'react-router';
import text from '../../../docs/guide.md?raw';
import { Button, MessagesRoom } from '@/ui';
import { Wordmark } from '@/ui/Wordmark';

const idOf = (words: string) => words.toLowerCase().replace(/[^a-z0-9]+/g, '-');

/** The guide as pages have it, with a place to go to at each heading. It is our own text, so it is put in as it is. */
function pageOf(source: string): { html: string; headings: string[] } {
  const marked = new Marked();
  const headings = marked
    .lexer(source)
    .flatMap((token) =>
      token.type === 'heading' && token.depth === 2 ? [(token as Tokens.Heading).text] : [],
    );
  marked.use({
    renderer: {
      heading({ tokens, depth, text: words }) {
        return `<h${depth} id="${idOf(words)}">${this.parser.parseInline(tokens)}</h${depth}>`;
      },
    },
  });
  return { html: marked.parse(source, { async: false }), headings };
}

/** How each place is worked with, in the app itself. */
export function Guide() {
  const navigate = useNavigate();
  const { html, headings } = useMemo(() => pageOf(text), []);
  useEffect(() => {
    document.title = 'Guide · Ordle';
    return () => void (document.title = 'Ordle');
  }, []);
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-10 shrink-0 items-center gap-4 border-b border-rule px-3">
        <Wordmark />
        <MessagesRoom />
        <Button onClick={() => void navigate(-1)}>Back</Button>
      </header>
      <div className="flex min-h-0 grow">
        <nav
          aria-label="Guide"
          className="w-48 shrink-0 overflow-y-auto border-r border-rule px-4 py-5 max-md:hidden"
        >
          <ul className="flex flex-col gap-1">
            {headings.map((words) => (
              <li key={words}>
                <a href={`#${idOf(words)}`} className="underline hover:text-ink">
                  {words}
                </a>
              </li>
            ))}
          </ul>
        </nav>
        <main className="grow overflow-y-auto px-6 py-5" tabIndex={0}>
          <div className="guide mx-auto max-w-3xl" dangerouslySetInnerHTML={{ __html: html }} />
        </main>
      </div>
    </div>
  );
}
