import { execFileSync, spawn } from "node:child_process";
import { readFileSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { axeFaults, expect, inspectByKeyboard, noSideways, test } from "./yard.js";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const password = "three wet ropes hang";

// Serves a works of its own on an empty folder, as somebody begins one: no demo, no database given.
async function serve(name, program, args, environment, use) {
  const state = path.join(root, ".keralith", name);
  rmSync(state, { recursive: true, force: true });
  const app = spawn(program, [...args, "serve"], {
    cwd: "/",
    env: { ...environment, KERALITH_STATE: state, KERALITH_URLS: "http://127.0.0.1:0", KERALITH_DATABASE: "" },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let said = "";
  app.stderr.on("data", (data) => (said += data));
  const address = await new Promise((resolve, reject) => {
    app.stdout.on("data", (data) => {
      said += data;
      const match = /^(http:\/\/\S+\/set-up\?token=\S+)$/m.exec(said);
      if (match) resolve(match[1]);
    });
    app.on("exit", (code) => reject(new Error(`serve ended with ${code}: ${said}`)));
    app.on("error", reject);
  });
  const before = process.env.KERALITH_URL;
  process.env.KERALITH_URL = new URL(address).origin;
  await use({ address, origin: new URL(address).origin, state });
  process.env.KERALITH_URL = before;
  app.removeAllListeners("exit");
  const gone = new Promise((resolve) => app.once("exit", resolve));
  app.kill("SIGTERM");
  await gone;
}

const works = test.extend({
  works: async ({}, use) =>
    serve("browser-works", "dotnet", [path.join(root, "src/Keralith.Cli/bin/Release/net10.0/keralith.dll")], process.env, use),
});

const packed = test.extend({
  packed: async ({}, use) => {
    const folder = path.join(root, ".keralith", "browser-package");
    rmSync(folder, { recursive: true, force: true });
    execFileSync(path.join(root, "keralith"), ["package", folder], { stdio: "pipe" });
    const [archive] = readdirSync(folder);
    execFileSync("tar", ["-xzf", path.join(folder, archive), "-C", folder]);
    const unpacked = path.join(folder, archive.replace(".tar.gz", ""));

    // Of the machine it is given nothing but what Debian has: neither SDK nor runtime.
    const bare = { PATH: "/usr/sbin:/usr/bin:/sbin:/bin", HOME: "/nonexistent", DOTNET_ROOT: "/nonexistent" };
    await serve("browser-packed", path.join(unpacked, "app/keralith"), [], bare, (served) => use({ ...served, unpacked, bare }));
  },
});

async function sound(page) {
  await noSideways(page);
  expect(await axeFaults(page, null)).toEqual([]);
}

// Slow for it begins a database cluster of its own; it is the only test that goes the way a real works begins.
works("from an empty folder to the first signed inspection", async ({ works, page, browser }) => {
  page.setDefaultTimeout(20_000);
  await page.goto(`${works.origin}/register`);
  await expect(page.getByRole("heading", { name: "This works is not set up yet" })).toBeVisible();
  await page.goto(works.address);
  await sound(page);
  await page.getByLabel("The works' name").fill("Test Works");
  await page.getByLabel("The first store").fill("Yard rack");
  await page.getByLabel("Time zone").selectOption("Europe/Paris");
  await page.getByLabel("millimetre").check();
  await page.locator('[name=book][value=asme]').check();
  await page.getByLabel("Your name").fill("Ada Fell");
  await page.getByLabel("Sign-in name").fill("ada");
  await page.getByLabel("Password").fill(password);
  await page.getByLabel("The same again").fill(password);
  await page.getByRole("button", { name: "Set it up" }).click();
  await expect(page.getByRole("heading", { name: "Test Works is set up" })).toBeVisible();
  await sound(page);

  // Somebody who keeps the store and inspects, authorised for hardware.
  await page.getByRole("link", { name: "Invite people" }).click();
  const invite = page.locator("section", { has: page.getByRole("heading", { name: "Invite somebody" }) });
  await invite.getByLabel("Name", { exact: true }).fill("Bo Reed");
  await invite.getByLabel("Sign-in name").fill("bo");
  await invite.locator('[name=role][value=stores]').check();
  await invite.locator('[name=role][value=inspector]').check();
  await invite.getByRole("button", { name: "Make their address" }).click();
  const address = (await page.locator("#link").textContent()).trim();
  await sound(page);
  const authorise = page.getByRole("form", { name: "Authorise" });
  await authorise.getByLabel("Who").selectOption({ label: "Bo Reed" });
  await authorise.getByLabel("For").selectOption({ label: "hardware" });
  await authorise.getByLabel("Up to and with").fill("2099-12-31");
  await authorise.getByRole("button", { name: "Say so" }).click();
  await expect(page.locator("tr", { hasText: "Bo Reed" })).toContainText("2099-12-31");
  for (const place of ["/settings/person/bo", "/settings/stores", "/settings/running", "/account", "/account/factor"]) {
    await page.goto(works.origin + place);
    await sound(page);
    await page.setViewportSize({ width: 390, height: 844 });
    await noSideways(page);
    await page.setViewportSize({ width: 1280, height: 800 });
  }

  // Bo chooses a password, registers a shackle, inspects it and signs.
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const bo = await context.newPage();
  bo.setDefaultTimeout(20_000);
  await bo.goto(address);
  await bo.getByLabel("Password").fill("a long rope of hemp");
  await bo.getByLabel("The same again").fill("a long rope of hemp");
  await bo.getByRole("button", { name: "Take this password" }).click();
  await bo.getByRole("link", { name: "Sign in" }).click();
  await bo.getByLabel("Name").fill("bo");
  await bo.getByLabel("Password").fill("a long rope of hemp");
  await bo.keyboard.press("Enter");
  await expect(bo.getByRole("navigation", { name: "Places", exact: true })).toBeVisible();
  await bo.goto(`${works.origin}/register/new?family=shackle`);
  const fields = { mark: "TW-0001", size: "7/8 in", maker: "A maker", serial: "1", ratedLoad: "6.5 t", peg: "A1" };
  for (const [name, value] of Object.entries(fields)) await bo.locator(`[name=${name}]`).fill(value);
  for (const box of await bo.locator('input[name^="tag:"]').all()) await box.check();
  await bo.locator('[name="baseline:body:shackle.wear-body"]').fill("7/8 in");
  await bo.locator('[name="baseline:pin:shackle.wear-pin"]').fill("1 in");
  await bo.locator('[name=pinType]').selectOption("screw");
  await bo.getByRole("button", { name: "Register", exact: true }).click();
  await expect(bo.locator(".answer")).toContainText("Do not use");
  await bo.getByRole("button", { name: "Initial inspection" }).click();
  await inspectByKeyboard(bo);
  await bo.getByLabel("Your password").fill("a long rope of hemp");
  await bo.getByRole("button", { name: /^Sign as/ }).click();
  await expect(bo.locator(".answer")).toContainText("May be used");
  await context.close();
});

// Slow for it publishes the program with its runtime, as a release does; nothing else shows that the archive is whole.
packed("the package runs in an empty folder on a machine without the SDK", async ({ packed, page }) => {
  await page.goto(packed.address);
  await expect(page.getByRole("heading", { name: "Set your works up" })).toBeVisible();
  const drawn = await page.evaluate(async () => {
    await document.fonts.ready;
    return { font: [...document.fonts].some((f) => f.status === "loaded"), sheet: getComputedStyle(document.querySelector(".sheet")).borderTopStyle };
  });
  expect(drawn).toEqual({ font: true, sheet: "solid" });

  const run = (...args) =>
    execFileSync(path.join(packed.unpacked, "app/keralith"), args, { cwd: "/", env: { ...packed.bare, KERALITH_STATE: packed.state }, encoding: "utf8" });
  const examples = JSON.parse(readFileSync(path.join(root, "tests/Core.Tests/Examples/judge.json"), "utf8"));
  const [{ input, expected }] = examples;
  const file = path.join(packed.unpacked, "case.json");
  writeFileSync(file, JSON.stringify(input));
  expect(JSON.parse(run("judge", file)).verdict).toBe(expected.verdict);
  expect(run("verify")).toContain("Everything verifies.");
  for (const unit of ["keralith.service", "keralith-backup.service"]) {
    const text = readFileSync(path.join(packed.unpacked, "systemd", unit), "utf8");
    expect(text).toMatch(/^ExecStart=\/opt\/keralith\/app\/keralith /m);
    for (const line of ["User=keralith", "NoNewPrivileges=yes", "ProtectSystem=strict"]) expect(text).toContain(line);
  }
});
