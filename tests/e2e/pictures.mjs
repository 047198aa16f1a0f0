// Takes the pictures of docs/screenshots from the running demo: node tests/e2e/pictures.mjs http://127.0.0.1:5080
// With the address that ./keralith serve prints on an empty folder as well, that of setting a works up too.
// Wants poppler-utils from Debian for the certificate, and a demo nobody has worked in yet.
import { execFileSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { chromium } from "@playwright/test";

const base = process.argv[2] ?? "http://127.0.0.1:5080";
const folder = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../../docs/screenshots");
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
});

async function visitor(who, options = {}) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: "light", baseURL: base, ...options });
  const page = await context.newPage();
  await page.goto("/sign-in");
  await page.getByLabel("Name").fill(who);
  await page.getByLabel("Password").fill("lockgate-demo");
  await page.keyboard.press("Enter");
  await page.waitForURL(`${base}/`);
  return page;
}

const shot = (page, name) => page.screenshot({ path: path.join(folder, `${name}.png`) });

// Several views side by side in one picture.
async function together(name, pictures, width = 760) {
  const context = await browser.newContext({ viewport: { width: width * pictures.length, height: 900 } });
  const page = await context.newPage();
  await page.setContent(`<!doctype html><body style="margin:0;display:flex;align-items:flex-start;background:#f5f1e7">${pictures.map((p) => `<img style="width:${width}px" src="data:image/png;base64,${p.toString("base64")}">`).join("")}</body>`);
  await page.locator("body").screenshot({ path: path.join(folder, `${name}.png`) });
  await context.close();
}

const inspector = await visitor("inspector");
await shot(inspector, "wall");
await inspector.goto("/register");
await shot(inspector, "register");
await inspector.goto("/desk");
const desk = [await inspector.screenshot()];
await inspector.goto("/settings/questions");
desk.push(await inspector.screenshot());
await inspector.goto("/piece/HM-0002");
const pieces = [await inspector.screenshot()];
await inspector.goto("/rules?family=alloy-chain-sling&part=leg-1/hook&criterion=hook.throat&figure=1.45+in");
await shot(inspector, "rules");
await inspector.goto("/piece/HM-0002");
await inspector.getByRole("button", { name: /inspection|inspecting/ }).click();
await inspector.waitForURL("**/inspect/**");
const inspect = inspector.url().split("?")[0];
await inspector.goto(`${inspect}?part=leg-1/hook`);
await inspector.getByRole("button", { name: "No fault found on this part" }).click();
await inspector.locator('[data-question="hook.throat"] [data-field="value"]').fill("46.3");
await inspector.getByText("governs", { exact: false }).or(inspector.locator('[data-question="hook.throat"] .outcome')).first().waitFor();
await inspector.waitForTimeout(600);
const inspecting = [await inspector.screenshot()];
await inspector.goto(`${inspect}/sign`);
await shot(inspector, "verdict");

await inspector.goto("/register?q=kit&state=in-service");
await inspector.locator("[data-rows] tbody a").first().click();
await inspector.waitForURL("**/piece/**");
pieces.push(await inspector.screenshot());
await inspector.goto("/register?family=web-sling&state=in-service");
await inspector.locator("[data-rows] tbody a").first().click();
await inspector.waitForURL("**/piece/**");
pieces.push(await inspector.screenshot());
await together("piece", pieces);
for (const [family, part] of [["wire-rope-sling", "leg-1"], ["hand-chain-hoist", "load-chain"]]) {
  await inspector.goto(`/register?family=${family}&state=in-service`);
  await inspector.locator("[data-rows] tbody a").first().click();
  await inspector.waitForURL("**/piece/**");
  await inspector.getByRole("button", { name: /inspection|inspecting/ }).click();
  await inspector.waitForURL("**/inspect/**");
  await inspector.goto(`${inspector.url().split("?")[0]}?part=${part}`);
  inspecting.push(await inspector.screenshot());
}
await together("inspect", inspecting);
await inspector.goto("/piece/HM-0041/check");
const checked = [await inspector.screenshot()];
await inspector.goto("/labels?marks=HM-0001+HM-0002+HM-0076+HM-0041&size=a4-8");
await inspector.locator("img.label-sheet").evaluate((image) => image.decode());
await shot(inspector, "labels");
await inspector.goto("/register/take-over");
const takenIn = [await inspector.screenshot()];
await inspector.goto("/register/import");
await inspector.setInputFiles("[name=file]", { name: "boat-locker.csv", mimeType: "text/csv", buffer: Buffer.from("Mark,Serial no,family,size,pin_type,WLL,Location\nHM-0951,P-1,shackle,7/8 in,screw,6-1/2 short ton,Workboat Teasel\nHM-0952,P-2,shackle,7/8,screw,6-1/2 ton,Workboat Teasel\nHM-0001,P-3,shackle,3/4 in,bolt,4-3/4 short ton,Attic\n") });
await inspector.getByRole("button", { name: /Read it/ }).click();
await inspector.waitForURL("**/register/import/**");
takenIn.unshift(await inspector.screenshot());
await together("import", takenIn);

const qualified = await visitor("qualified");
await qualified.goto("/cage");
await shot(qualified, "cage");
const after = [];
for (const place of ["/recall?maker=Pellow+Forge&model=Bow", "/piece/HM-0009/look-back", "/teaches", "/retired"]) {
  await qualified.goto(place);
  after.push(await qualified.screenshot());
}
await together("after", after);
await qualified.goto("/due");
await together("due", [await qualified.screenshot(), ...desk]);
await qualified.goto("/season");
await shot(qualified, "season");
await qualified.goto("/piece/HM-0001");
await qualified.getByRole("heading", { name: "Wear over time" }).scrollIntoViewIfNeeded();
await qualified.getByRole("heading", { name: "Wear over time" }).evaluate((heading) => window.scrollTo(0, heading.getBoundingClientRect().top + window.scrollY - 20));
await shot(qualified, "wear");
await qualified.goto("/settings");
await qualified.locator("#limits").scrollIntoViewIfNeeded();
await shot(qualified, "settings");

// The certificate as it prints, beside the frequent check it is so unlike.
await qualified.goto("/piece/HM-0001");
const record = await qualified.locator('ol a[href^="/inspection/"]').first().getAttribute("href");
const certificate = path.join(tmpdir(), "certificate");
writeFileSync(`${certificate}.pdf`, await (await qualified.request.get(`${record}/certificate.pdf`)).body());
execFileSync("pdftoppm", ["-png", "-r", "80", "-f", "1", "-l", "1", "-singlefile", `${certificate}.pdf`, certificate]);
checked.push(readFileSync(`${certificate}.png`));
await together("check-certificate", checked);

await qualified.goto("/lift");
await qualified.getByRole("link", { name: "Lower gate leaf, lock 9" }).first().click();
await qualified.waitForURL(/lift\/[0-9a-f-]{36}$/);
const lift = qualified.url();
await shot(qualified, "lift");
await qualified.goto(`${lift}/plan`);
await qualified.screenshot({ path: path.join(folder, "lift-plan.png"), fullPage: true });

const night = await visitor("crew", { colorScheme: "dark", viewport: { width: 390, height: 844 } });

const phone = await visitor("crew", { viewport: { width: 390, height: 844 } });
await phone.goto("/piece/HM-0002");
const hand = [await phone.screenshot()];
await phone.goto(lift);
hand.push(await phone.screenshot());
hand.push(await night.screenshot());
await together("phone", hand, 390);

if (process.argv[3]) {
  const begin = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await begin.goto(process.argv[3]);
  const works = [await begin.screenshot()];
  const admin = await visitor("admin");
  for (const place of ["/settings/people", "/settings/running"]) {
    await admin.goto(place);
    works.push(await admin.screenshot());
  }
  await together("works", works);
}
await browser.close();
