import { expect, test as base } from "@playwright/test";

// Every test fails on a console error, a page error, or a request that leaves the machine.
export const test = base.extend({
  baseURL: async ({}, use) => use(process.env.KERALITH_URL),
  page: async ({ page }, use) => {
    const faults = [];
    const allowed = (text) => page.expectedFaults?.some((fault) => text.includes(fault));
    page.on("console", (message) => {
      if (["error", "warning"].includes(message.type()) && !allowed(message.text())) faults.push(`console: ${message.text()}`);
    });
    page.on("pageerror", (error) => faults.push(`page: ${error.message}`));
    page.on("request", (request) => {
      if (!request.url().startsWith(process.env.KERALITH_URL) && !request.url().startsWith("data:")) faults.push(`foreign request: ${request.url()}`);
    });
    await use(page);
    expect(faults).toEqual([]);
  },
});

export { expect };

export async function signIn(page, who) {
  await page.context().clearCookies();
  await page.goto("/sign-in");
  await page.getByLabel("Name").fill(who);
  await page.getByLabel("Password").fill("lockgate-demo");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("navigation", { name: "Places", exact: true }).or(page.getByRole("navigation", { name: "Places at the thumb" })).first()).toBeVisible();
}

export async function noSideways(page) {
  expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBeLessThanOrEqual(0);
}

// Counts presses: keys that are no part of a typed figure, and clicks.
export function presses(page) {
  const count = { keys: 0, clicks: 0 };
  return {
    async key(name) {
      count.keys += 1;
      await page.keyboard.press(name);
    },
    async click(locator) {
      count.clicks += 1;
      await locator.click();
    },
    get all() {
      return count.keys + count.clicks;
    },
  };
}
