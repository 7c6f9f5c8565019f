// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { toast } from "sonner";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ProblemError } from "@/api/client";
import { NumberField } from "@/parts/NumberField";
import { tell } from "@/state/design";

const FAULT = new ProblemError("length", "That is too wide.", "Write a smaller one.");

/** Longer than a message waits for its field. */
const soon = () => act(() => new Promise((done) => window.setTimeout(done, 120)));

beforeEach(() => void vi.spyOn(toast, "error").mockReturnValue(0));
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

describe("what is refused", () => {
  it("is said beside the field that asked for it, and nowhere else", async () => {
    const refuse = async () => {
      tell(FAULT);
      return null;
    };
    render(<NumberField label="Copies" value={3} places={0} onCommit={refuse} />);
    const field = screen.getByRole("textbox") as HTMLInputElement;
    fireEvent.change(field, { target: { value: "900" } });
    fireEvent.keyDown(field, { key: "Enter" });
    await soon();
    expect(screen.getByRole("alert").textContent).toBe("That is too wide. Write a smaller one.");
    expect([field.value, field.getAttribute("aria-invalid")]).toEqual(["900", "true"]);
    expect(toast.error).not.toHaveBeenCalled();
  });

  it("is said over the page where its field is gone before the answer comes", async () => {
    const answer: { come?: () => void } = {};
    const refuse = async () => {
      await new Promise<void>((done) => {
        answer.come = done;
      });
      tell(FAULT);
      return null;
    };
    const view = render(<NumberField label="Copies" value={3} places={0} onCommit={refuse} />);
    const field = screen.getByRole("textbox");
    fireEvent.change(field, { target: { value: "900" } });
    fireEvent.keyDown(field, { key: "Enter" });
    view.unmount();
    answer.come?.();
    await soon();
    expect(toast.error).toHaveBeenCalledTimes(1);
  });

  it("is said over the page where no field asked for it", async () => {
    tell(FAULT);
    await soon();
    expect(toast.error).toHaveBeenCalledTimes(1);
  });
});
