// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { NumberField } from "@/parts/NumberField";

afterEach(cleanup);

const field = () => screen.getByRole("textbox") as HTMLInputElement;
const chosen = () => field().value.slice(field().selectionStart ?? 0, field().selectionEnd ?? 0);
const copies = (value: number) => <NumberField label="Copies" value={value} places={0} onCommit={() => value} />;

describe("a field that is shown another value", () => {
  it("keeps all of it chosen, so that what is typed stands in its place", () => {
    const view = render(copies(3));
    field().focus();
    field().select();
    fireEvent.select(field());
    view.rerender(copies(120));
    expect([field().value, chosen()]).toEqual(["120", "120"]);
  });

  it("chooses nothing that was not chosen", () => {
    const view = render(copies(3));
    field().focus();
    field().setSelectionRange(1, 1);
    fireEvent.select(field());
    view.rerender(copies(120));
    expect(chosen()).toBe("");
  });

  it("leaves what is being typed", () => {
    const view = render(copies(3));
    field().focus();
    field().select();
    fireEvent.select(field());
    fireEvent.change(field(), { target: { value: "4" } });
    view.rerender(copies(120));
    expect([field().value, chosen()]).toEqual(["4", ""]);
  });
});
