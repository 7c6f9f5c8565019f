import { useState } from "react";
import Markdown from "react-markdown";
import { Input } from "@/entry/Entry";
import { BackToDesign } from "@/parts/BackToDesign";
import { Home } from "@/parts/TopBar";
import text from "../../../../docs/guide.md?raw";
import { matching, sectionsOf } from "./sections";

const PICTURES = import.meta.glob<string>("../../../../docs/guide/*.png", {
  eager: true,
  query: "?url",
  import: "default",
});
const SECTIONS = sectionsOf(text);

/** The guide, in the app: it can be searched, and needs nothing from outside. */
export function Help() {
  const [words, setWords] = useState("");
  const found = matching(SECTIONS, words);
  return (
    <main className="grid h-full grid-rows-[48px_1fr] narrow:block narrow:overflow-y-auto">
      <title>Help · Glad Stack</title>
      <header className="flex min-h-12 flex-wrap items-center gap-3 border-b border-line bg-paper px-4">
        <Home />
        <h1 className="text-[1.0625rem] font-semibold">Help</h1>
        <BackToDesign />
      </header>
      <div className="grid min-h-0 grid-cols-[280px_1fr] narrow:block">
        <nav
          aria-label="Parts of the guide"
          className="overflow-y-auto border-r border-line bg-paper px-4 py-4 narrow:max-h-[50dvh]"
        >
          <Input
            type="search"
            aria-label="Search the guide"
            placeholder="Search the guide"
            value={words}
            className="w-full border-b-2 bg-transparent focus:border-chosen"
            onChange={(event) => setWords(event.target.value)}
          />
          <ul className="mt-3">
            {found.map(({ title, key }) => (
              <li key={key}>
                <a className="block rounded px-2 py-1 hover:bg-bench" href={`#${key}`}>
                  {title}
                </a>
              </li>
            ))}
          </ul>
          {found.length === 0 && <p className="mt-3 text-soft">Nothing in the guide has these words.</p>}
        </nav>
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard */}
        <section aria-label="Guide" tabIndex={0} className="overflow-y-auto px-10 py-6 narrow:px-4">
          <div className="max-w-2xl">
            {found.map((section) => (
              <article key={section.key} id={section.key} className="mb-10 scroll-mt-4">
                <Markdown components={PARTS}>{section.body}</Markdown>
              </article>
            ))}
          </div>
        </section>
      </div>
    </main>
  );
}

const PARTS = {
  h1: ({ children }: { children?: React.ReactNode }) => <h2 className="mb-2 text-2xl font-semibold">{children}</h2>,
  h2: ({ children }: { children?: React.ReactNode }) => <h2 className="mb-2 text-xl font-semibold">{children}</h2>,
  p: ({ children }: { children?: React.ReactNode }) => <p className="my-2">{children}</p>,
  ol: ({ children }: { children?: React.ReactNode }) => (
    <ol className="my-3 flex list-decimal flex-col gap-1.5 pl-6">{children}</ol>
  ),
  ul: ({ children }: { children?: React.ReactNode }) => (
    <ul className="my-3 flex list-disc flex-col gap-1.5 pl-6">{children}</ul>
  ),
  code: ({ children }: { children?: React.ReactNode }) => <code className="rounded bg-table px-1">{children}</code>,
  img: ({ src, alt }: { src?: string | undefined; alt?: string | undefined }) => (
    <img
      src={PICTURES[`../../../../docs/${src}`]}
      alt={alt ?? ""}
      loading="lazy"
      className="mt-3 w-full rounded-lg border border-line"
    />
  ),
};
