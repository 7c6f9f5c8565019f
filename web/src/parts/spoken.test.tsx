// @vitest-environment happy-dom
import { act, cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Spoken, useIsLong, useSpokenWork } from "@/parts/Spoken";
import { useSpeech } from "@/state/speech";

function Work({ working, how }: { working: boolean; how: string }) {
  useSpokenWork(useIsLong(working), how, "Laid.");
  return <Spoken />;
}

const heard = () => screen.getByRole("status").textContent;
const pass = (ms: number) => act(() => vi.advanceTimersByTime(ms));

beforeEach(() => {
  vi.useFakeTimers();
  useSpeech.setState({ said: "" });
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

it("says how far a work is now and then, and how it ended", () => {
  const view = render(<Work working how="1 of 40" />);
  pass(500);
  expect(heard()).toBe("1 of 40");
  view.rerender(<Work working how="2 of 40" />);
  pass(500);
  expect(heard()).toBe("1 of 40");
  pass(5000);
  view.rerender(<Work working how="20 of 40" />);
  expect(heard()).toBe("20 of 40");
  view.rerender(<Work working={false} how="40 of 40" />);
  pass(0);
  expect(heard()).toBe("Laid.");
});

it("says nothing of what is done in a moment", () => {
  const view = render(<Work working how="1 of 2" />);
  pass(200);
  view.rerender(<Work working={false} how="2 of 2" />);
  pass(2000);
  expect(heard()).toBe("");
});
