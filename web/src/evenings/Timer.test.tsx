import { act, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import { Timer } from "./Timer";

afterEach(() => vi.useRealTimers());

test("the clock runs down, says when time is up and what was decided in it", () => {
  vi.useFakeTimers();
  const { rerender } = render(<Timer done={2} />);
  fireEvent.click(screen.getByText("5 min"));
  expect(screen.getByRole("timer").textContent).toContain("5:00");
  act(() => void vi.advanceTimersByTime(61_000));
  expect(screen.getByRole("timer").textContent).toContain("3:59");
  rerender(<Timer done={5} />);
  act(() => void vi.advanceTimersByTime(300_000));
  expect(screen.queryByRole("timer")).toBeNull();
  expect(screen.getByRole("status").textContent).toContain("3 things decided");
});
