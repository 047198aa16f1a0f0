import { expect, test as base } from "@playwright/test";
import axe from "axe-core";

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

const wcag = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];

// What axe finds on a page, in words; by which of its rules: those of some tags, or null for all it has. Run in the page itself,
// which is one document; its own wrapper for several frames opens another page for each run and takes three times as long.
export async function axeFaults(page, tags = wcag) {
  await whole(page);
  expect(page.frames()).toHaveLength(1);
  await page.evaluate(axe.source);
  const { violations, passes } = await page.evaluate((only) => window.axe.run({ ...(only && { runOnly: only }), resultTypes: ["violations"] }), tags);
  expect(passes.length, "axe ran no rule").toBeGreaterThan(5);
  return violations.map((v) => `${page.url()} ${v.id}: ${v.nodes.slice(0, 3).map((n) => `${n.target} ${n.any?.[0]?.message ?? ""}`).join(" | ")}`);
}

// All of the page is there, and not its beginning alone: what is counted or listed once, and not waited for, is counted whole.
export function whole(page) {
  return page.waitForLoadState("domcontentloaded");
}

export async function noSideways(page) {
  await whole(page);
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

// Figures of a sound two-leg 3/8 in sling, by criterion.
const figures = {
  "chain.link-thickness": "0.37",
  "chain.gauge-growth": "11.26",
  "hook.throat": "1.38",
  "hook.wear": "0.99",
  "link.wear": "0.74",
  "shackle.wear-body": "0.87",
  "shackle.wear-pin": "0.98",
};

// Walks every part with the keyboard alone: 0 for a clean part, figures typed, Enter on.
export async function inspectByKeyboard(page, overrides = {}, hand = presses(page)) {
  for (let part = 0; part < 20; part += 1) {
    if (page.url().endsWith("/sign")) return hand;
    const name = await page.locator("form[data-part]").getAttribute("data-part");
    await whole(page);
    if (await page.locator('[data-question] input[type="radio"][value="no"]').count()) {
      await page.evaluate(() => document.activeElement?.blur());
      await hand.key("0");
      await expect(page.locator('[data-question]:has(input[value="no"]):not(:has(input[data-field="answer"]:checked))')).toHaveCount(0);
    }
    for (const row of await page.locator('[data-question]:has(input[type="text"][data-field="value"])').all()) {
      const criterion = await row.getAttribute("data-question");
      if (criterion === "hook.twist-angle") continue;
      const value = row.locator('[data-field="value"]');
      const pair = row.locator('[data-field="shortest"]');
      await value.focus();
      await page.keyboard.type(overrides[`${name} ${criterion}`] ?? ((await pair.count()) ? "72" : figures[criterion]));
      if (await pair.count()) {
        await pair.focus();
        await page.keyboard.type("72");
      }
    }
    await page.locator("button[data-next]").focus();
    const before = page.url();
    await hand.key("Enter");
    await page.waitForURL((url) => url.href !== before);
  }
  throw new Error("the walk did not end");
}
