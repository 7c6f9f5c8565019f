// @vitest-environment happy-dom
import { act, cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it } from "vitest";
import { useFocusKept } from "@/state/focus";

/** Longer than the page takes to see what is gone. */
const soon = () => act(() => new Promise((done) => window.setTimeout(done, 120)));

function Steps({ redoes }: { redoes: boolean }) {
  useFocusKept();
  return (
    <p>
      <button type="button">Undo</button>
      <button type="button" disabled={!redoes}>
        Redo
      </button>
    </p>
  );
}

beforeEach(() => {
  Element.prototype.checkVisibility ??= () => true;
});
afterEach(cleanup);

it("goes on to what stands nearest when what has it is switched off", async () => {
  const view = render(<Steps redoes />);
  screen.getByText("Redo").focus();
  view.rerender(<Steps redoes={false} />);
  await soon();
  expect(document.activeElement?.textContent).toBe("Undo");
});

it("stays where it is while something else changes", async () => {
  const view = render(<Steps redoes />);
  screen.getByText("Undo").focus();
  view.rerender(<Steps redoes={false} />);
  await soon();
  expect(document.activeElement?.textContent).toBe("Undo");
});
