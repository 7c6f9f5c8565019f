export interface Section {
  readonly title: string;
  readonly key: string;
  readonly body: string;
}

/** The parts of a guide in Markdown, one for each of its headings. */
export function sectionsOf(text: string): Section[] {
  return text
    .split(/^(?=#{1,2} )/m)
    .filter((body) => body.trim())
    .map((body) => {
      const title = /^#{1,2} (.+)$/m.exec(body)?.[1]?.trim() ?? "";
      return { title, key: title.toLocaleLowerCase().replace(/[^a-z0-9]+/g, "-"), body };
    });
}

/** The parts that hold all words that are looked for. */
export function matching(sections: readonly Section[], words: string): Section[] {
  const parts = words.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  return sections.filter(({ body }) => {
    const text = body.toLocaleLowerCase();
    return parts.every((part) => text.includes(part));
  });
}

/** The keys that the guide lists, each with what it does. */
export function keysOf(guide: string): readonly (readonly [key: string, does: string])[] {
  const body = sectionsOf(guide).find(({ key }) => key === "keys")?.body ?? "";
  return [...body.matchAll(/^- \*\*(.+?)\*\*: (.+)$/gm)].map(([, key = "", does = ""]) => [key, does] as const);
}
