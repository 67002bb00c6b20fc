import { MantineProvider } from "@mantine/core";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { api } from "../api/client";
import { MaxFromSet } from "./ProfileForm";

beforeEach(() => {
  vi.stubGlobal("matchMedia", () => ({
    matches: false,
    addEventListener() {},
    removeEventListener() {},
  }));
  vi.stubGlobal(
    "ResizeObserver",
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

async function estimated(unit: "kg" | "lb", load: string) {
  const post = vi.spyOn(api, "POST").mockResolvedValue({
    data: { low_kg: 104, middle_kg: 105, high_kg: 107 },
    response: new Response(),
  } as never);
  const used = vi.fn();
  render(
    <MantineProvider>
      <QueryClientProvider client={new QueryClient()}>
        <MaxFromSet names={["back squat"]} unit={unit} onUse={used} />
      </QueryClientProvider>
    </MantineProvider>,
  );
  fireEvent.change(screen.getByPlaceholderText("lift"), { target: { value: "back squat" } });
  const name = unit === "kg" ? "Kilograms lifted" : "Pounds lifted";
  fireEvent.change(screen.getByLabelText(name), { target: { value: load } });
  fireEvent.click(screen.getByRole("button", { name: "Estimate" }));
  await waitFor(() => screen.getByRole("button", { name: "Take as best" }));
  const shown = screen.getByText(/About/).textContent;
  fireEvent.click(screen.getByRole("button", { name: "Take as best" }));
  return { sent: post.mock.calls[0]?.[1], used: used.mock.calls, shown };
}

test("pounds of a set are asked for in kilograms, shown in pounds and kept in kilograms", async () => {
  // 200 lb are 90.718 kg by the pound's definition (0.45359237 kg, 1959).
  const { sent, used, shown } = await estimated("lb", "200");
  expect(sent).toEqual({ body: { kg: 90.718, reps: 5 } });
  expect(shown).toContain("231.5 lb");
  expect(used).toEqual([["back squat", 105]]);
});

test("kilograms of a set stay what they are", async () => {
  const { sent, used, shown } = await estimated("kg", "90");
  expect(sent).toEqual({ body: { kg: 90, reps: 5 } });
  expect(shown).toContain("105 kg");
  expect(used).toEqual([["back squat", 105]]);
});
