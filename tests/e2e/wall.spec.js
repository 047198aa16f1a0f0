import { expect, noSideways, signIn, test } from "./yard.js";

test("a store of five thousand is seen whole, quickly, and each bay close", async ({ page }) => {
  await signIn(page, "stores");
  const rows = Array.from({ length: 5000 }, (_, i) => `HW-${i},shackle,7/8 in,screw,Pellow Forge,HW${i},6-1/2 short ton,Upper Flight,W${String.fromCharCode(65 + (Math.floor(i / 200) % 26))}-${i % 200}`);
  await page.goto("/register/import");
  await page.locator("input[type=file]").setInputFiles({ name: "five-thousand.csv", mimeType: "text/csv", buffer: Buffer.from(["mark,family,size,pin_type,maker,serial,rated_load,store,peg", ...rows].join("\n")) });
  await page.getByRole("button", { name: /Read it and show/ }).click();
  await page.getByRole("button", { name: "Land all 5000" }).click();
  await expect(page.locator(".answer.yes")).toContainText("5000 pieces landed", { timeout: 60_000 });

  await page.goto("/");
  await page.getByRole("link", { name: "Upper Flight" }).click();
  await expect(page.locator(".wall-map a")).not.toHaveCount(0);
  const times = [];
  for (let i = 0; i < 5; i += 1) {
    await page.reload();
    times.push(await page.evaluate(() => performance.getEntriesByType("navigation")[0].domContentLoadedEventEnd));
  }
  // Generous: the machine is shared. What it takes on a quiet one stands in docs/performance.md.
  expect(times.sort((a, b) => a - b)[2]).toBeLessThan(3000);
  await page.getByRole("link", { name: /^Bay WC, / }).click();
  await expect(page.getByRole("heading", { name: /Bay WC, 200 pieces/ })).toBeVisible();
  await expect(page.locator(".wall .peg")).toHaveCount(200);

  // The filter fades the rest; a plain list stands beside.
  await page.getByLabel("Mark, maker, peg").fill("HW-417");
  await page.getByRole("button", { name: "Show" }).click();
  await expect(page.getByRole("status")).toContainText("1 of");
  await expect(page.locator(".wall .peg:not(.is-faded)")).toHaveCount(1);
  await page.getByRole("link", { name: "As a list" }).click();
  await expect(page.getByRole("status")).toContainText("pieces");
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto("/?store=3");
  await noSideways(page);
});
