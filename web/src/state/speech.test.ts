import { beforeEach, describe, expect, it } from "vitest";
import type { AnyFinding } from "@/state/proof";
import { newsOf, say, sayProgress, useSpeech } from "@/state/speech";

const found = (code: string, text: string, severity: AnyFinding["severity"] = "mind") =>
  ({ code, about: "navy", text, severity }) as AnyFinding;

beforeEach(() => useSpeech.setState({ said: "" }));

describe("what is said", () => {
  it("is said again when the same words come twice", () => {
    say("Laid.");
    const first = useSpeech.getState().said;
    say("Laid.");
    expect(useSpeech.getState().said).not.toBe(first);
    expect(useSpeech.getState().said.trim()).toBe("Laid.");
  });

  it("of progress comes only every few seconds", () => {
    const heard: string[] = [];
    const stop = useSpeech.subscribe(({ said }) => heard.push(said));
    for (let ms = 0; ms < 20_000; ms += 500) sayProgress(`${ms} of 20000`, 100_000 + ms);
    stop();
    expect(heard).toEqual(["0 of 20000", "5000 of 20000", "10000 of 20000", "15000 of 20000"]);
  });
});

describe("what is new of what is told", () => {
  const thin = found("thin", "A stroke is too thin.");

  it("is said once, with its text", () => {
    expect(newsOf([], [thin])).toBe("New: A stroke is too thin.");
    expect(newsOf([thin], [thin])).toBeNull();
  });

  it("does not count what only moved, and counts one more of a kind", () => {
    const moved = { ...thin, text: "A stroke is too thin, elsewhere." };
    expect(newsOf([thin], [moved])).toBeNull();
    expect(newsOf([thin], [thin, moved])).toBe("New: A stroke is too thin, elsewhere.");
  });

  it("is counted where it is more than one, and notes are left out", () => {
    expect(newsOf([], [thin, found("tiny", "A piece is tiny.", "stop")])).toBe("2 new problems. A stroke is too thin.");
    expect(newsOf([], [found("page", "There are two pages.", "note")])).toBeNull();
  });

  it("says so when nothing is left", () => {
    expect(newsOf([thin], [])).toBe("No problems are left.");
    expect(newsOf([], [])).toBeNull();
  });
});
