import { chromium } from "@playwright/test";
const base = process.argv[2];
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu"] });
async function visitor(who, viewport) {
  const context = await browser.newContext({ viewport, colorScheme: "light", baseURL: base });
  const page = await context.newPage();
  await page.goto("/sign-in");
  await page.getByLabel("Name").fill(who);
  await page.getByLabel("Password").fill("lockgate-demo");
  await page.keyboard.press("Enter");
  await page.waitForURL(`${base}/`);
  return page;
}
const wide = { width: 1280, height: 800 }, phone = { width: 390, height: 844 };
const q = await visitor("qualified", wide);
await q.goto("/lift");
await q.screenshot({ path: "/tmp/look-lifts.png", fullPage: true });
const out = q.locator("tr", { hasText: "gear is out" }).locator("a").first();
const href = await out.getAttribute("href");
await q.goto(`${href}/ready`);
await q.screenshot({ path: "/tmp/look-ready.png", fullPage: true });
const a = await visitor("admin", wide);
await a.goto("/settings");
await a.screenshot({ path: "/tmp/look-settings.png" });
const p = await visitor("qualified", phone);
await p.goto(`${href}/ready`);
await p.screenshot({ path: "/tmp/look-ready-phone.png", fullPage: true });
await browser.close();
