import { describe, expect, it } from "vitest";
import { unbroken } from "../src/ui/format";

describe("words with figures", () => {
  it("keep a figure and its unit on one line, and nothing else", () => {
    expect(unbroken("the whole 4 days, 83 % left; dark 15 min")).toBe(
      "the whole 4\u00a0days, 83\u00a0% left; dark 15\u00a0min",
    );
    expect(unbroken("6,000 VA of 7.2 kW at -3 °C")).toBe("6,000\u00a0VA of 7.2\u00a0kW at -3\u00a0°C");
    expect(unbroken("Sat 17 Oct 03:23, 2 stations, 3 ways, 5 minutes")).toBe(
      "Sat 17 Oct 03:23, 2 stations, 3 ways, 5 minutes",
    );
  });
});
