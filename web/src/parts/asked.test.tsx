// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Choice } from "@/parts/Choice";
import { NumberField } from "@/parts/NumberField";
import { SelectField } from "@/parts/SelectField";

const OPTIONS = ["butt", "lap", "gap"].map((value) => ({ value, text: value }));

/** Answers that come when they are let. */
function held() {
  const settle: ((done: unknown) => void)[] = [];
  const send = vi.fn(() => new Promise((done) => settle.push(done)));
  const answer = (k: number, done: unknown) =>
    act(async () => {
      settle[k]?.(done);
      await new Promise((drawn) => window.setTimeout(drawn, 20));
    });
  return { send, answer };
}

const chosen = () => (screen.getAllByRole("radio") as HTMLInputElement[]).find((one) => one.checked)?.nextSibling;
const isPending = () => screen.getByRole("group").getAttribute("aria-busy") === "true";

afterEach(cleanup);

describe("what was asked for and is not settled", () => {
  it("shows the newest of several at once, marked, until that one is settled", async () => {
    const { send, answer } = held();
    const view = render(<Choice label="Joint" value="butt" options={OPTIONS} onChange={send} />);
    fireEvent.click(screen.getByText("lap"));
    fireEvent.click(screen.getByText("gap"));
    expect(chosen()?.textContent).toBe("gap");
    expect(isPending()).toBe(true);
    view.rerender(<Choice label="Joint" value="lap" options={OPTIONS} onChange={send} />);
    await answer(0, {});
    expect(chosen()?.textContent).toBe("gap");
    expect(isPending()).toBe(true);
    view.rerender(<Choice label="Joint" value="gap" options={OPTIONS} onChange={send} />);
    await answer(1, {});
    expect(chosen()?.textContent).toBe("gap");
    expect(isPending()).toBe(false);
  });

  it("goes back to what holds where it was refused", async () => {
    const { send, answer } = held();
    render(<SelectField label="Joint" value="butt" options={OPTIONS} onChange={send} />);
    const select = screen.getByRole("combobox") as HTMLSelectElement;
    fireEvent.change(select, { target: { value: "gap" } });
    expect([select.value, select.getAttribute("aria-busy")]).toEqual(["gap", "true"]);
    await answer(0, null);
    expect([select.value, select.getAttribute("aria-busy")]).toEqual(["butt", null]);
  });

  it("is not marked where the control settles by itself", () => {
    render(<Choice label="Joint" value="butt" options={OPTIONS} onChange={() => undefined} />);
    fireEvent.click(screen.getByText("lap"));
    expect(isPending()).toBe(false);
  });

  it("stands marked in its field, and once refused is there to be mended", async () => {
    const { send, answer } = held();
    render(<NumberField label="Copies" value={3} onCommit={send} />);
    const field = screen.getByRole("textbox") as HTMLInputElement;
    fireEvent.change(field, { target: { value: "9" } });
    fireEvent.keyDown(field, { key: "Enter" });
    expect([field.value, field.getAttribute("aria-busy")]).toEqual(["9", "true"]);
    await answer(0, null);
    expect([field.value, field.getAttribute("aria-busy"), field.getAttribute("aria-invalid")]).toEqual([
      "9",
      null,
      "true",
    ]);
  });
});
