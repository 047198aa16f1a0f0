import { expect, noSideways, signIn, test } from "./yard.js";

// Pieces no other test touches.
const REPAIRED = "HM-0301";
const COUNTED = "HM-0303";

test("a piece goes to the shop, comes back into the cage, and a test load outside its band is refused", async ({ page }) => {
  test.setTimeout(120_000);
  page.expectedFaults = ["422"];
  await signIn(page, "stores");
  await page.goto(`/piece/${REPAIRED}/hold`);
  await page.getByLabel(/What is the matter|reason|why/i).first().fill("Pin hard to turn");
  await page.locator("main button.stop, main button[type=submit]").last().click();
  await page.goto(`/cage/${REPAIRED}`);
  await page.getByText("Send it to repair, or to a test bed").click();
  await page.getByLabel("To whom").fill("The maker's shop");
  await page.getByLabel("What is to be done").fill("New pin");
  await page.getByRole("button", { name: "Send it" }).click();
  await expect(page.locator("main")).toContainText("Away at repair");
  await page.goto("/cage");
  await expect(page.locator("main")).toContainText("repair at The maker's shop");
  await page.goto(`/piece/${REPAIRED}`);
  await expect(page.locator("main")).toContainText("Away at repair");
  await page.goto(`/cage/${REPAIRED}`);
  await page.getByLabel(/What was done or found/).fill("Pin replaced, paper T-9");
  await page.getByText("Parts that bear load were repaired").click();
  await page.getByRole("button", { name: "It is back" }).click();
  await expect(page.locator("main")).toContainText("back from a shop or test bed");

  await signIn(page, "qualified");
  await page.goto(`/cage/${REPAIRED}`);
  const band = await page.locator("#proof p").first().textContent();
  expect(band).toContain("times");
  await page.getByText("Record a proof test").click();
  const form = page.locator("#proof form");
  await form.getByLabel("Load put on").fill("1 kg");
  await form.getByLabel("Day").fill("2026-01-05");
  await form.getByLabel("By whom").fill("Test house");
  await form.getByLabel("Measured with").fill("Cell 4");
  await form.getByLabel("Calibration holds until").fill("2030-01-01");
  await form.getByLabel("Certificate, its number").fill("T-77");
  await form.getByText("Passed", { exact: true }).click();
  await form.getByRole("button", { name: "Record the test" }).click();
  await expect(page.getByRole("alert")).toContainText("the band is");
});

test("a recall is previewed, holds all of its kind and is let go by who set it", async ({ page }) => {
  await signIn(page, "qualified");
  await page.goto("/recall");
  await page.getByLabel("Maker").fill("Pellow Forge");
  await page.getByLabel("Serial, or the first").fill("none-1");
  await page.getByRole("button", { name: "Show what it means" }).click();
  await expect(page.locator("main")).toContainText("0 pieces match");
  await page.getByLabel("What is the matter with it").fill("Cracks at the shank");
  await page.getByLabel("The paper it comes from").fill("Notice 12");
  await page.getByRole("button", { name: "Nothing here is meant: hold what comes later" }).click();
  await page.waitForURL(/\/recall\/[0-9a-f-]{36}$/);
  await noSideways(page);
  const recall = page.url();

  await signIn(page, "admin");
  await page.goto(recall);
  await expect(page.getByRole("button", { name: /Let it go/ })).toHaveCount(0);
  await signIn(page, "qualified");
  await page.goto(recall);
  await page.getByLabel("Why it is let go").fill("The maker says so");
  await page.getByRole("button", { name: /Let it go/ }).click();
  await expect(page.locator("main")).toContainText("Let go on");
});

test("looking back names the jobs and the gear, and a piece is kept as evidence until somebody qualified lets it", async ({ page }) => {
  await signIn(page, "inspector");
  await page.goto("/piece/HM-0007/look-back");
  await expect(page.locator("main")).toContainText("Paddle gear overhaul");
  await expect(page.getByRole("link", { name: "Hold these to be looked at" })).toBeVisible();
  await page.goto(`/piece/${COUNTED}/look-back`);
  await page.getByText("Keep it as evidence").first().click();
  await page.getByLabel("What happened, and for whom it is kept").fill("Asked for by the inquiry");
  await page.getByRole("button", { name: "Keep it as evidence" }).click();
  await expect(page.locator("main")).toContainText("Kept as evidence:");
  await expect(page.getByRole("button", { name: "Let it go" })).toHaveCount(0);
  await signIn(page, "qualified");
  await page.goto(`/piece/${COUNTED}/look-back`);
  await page.getByLabel("Why it is let go").fill("The inquiry is over");
  await page.getByRole("button", { name: "Let it go" }).click();
  await expect(page.locator("main")).not.toContainText("Kept as evidence:");
});

test("a store is walked by scanning, left, gone on with and closed with its list", async ({ page }) => {
  await signIn(page, "stores");
  await page.goto("/round");
  await page.getByLabel("Walk a store").selectOption({ label: "Upper Flight" });
  await page.getByRole("button", { name: "Begin" }).click();
  await page.getByLabel("Scan what hangs there").fill(COUNTED);
  await page.keyboard.press("Enter");
  await expect(page.locator(".answer")).toContainText(COUNTED);
  await page.goto("/round");
  await page.getByRole("link", { name: /Go on: Upper Flight/ }).click();
  await page.getByLabel("Scan what hangs there").fill("ZZ-7");
  await page.keyboard.press("Enter");
  await expect(page.locator(".answer")).toContainText("is in no register");
  await page.getByRole("button", { name: /Close the round/ }).click();
  await expect(page.locator("main")).toContainText("The list stands as it was then");
  await noSideways(page);
});

test("words of the trade are explained where they stand, and first steps go away when one knows one's way", async ({ page }) => {
  await signIn(page, "trainee");
  await page.goto("/");
  if (await page.locator(".first-steps").count()) {
    await page.getByRole("button", { name: "I know my way" }).click();
    await expect(page.locator(".first-steps")).toHaveCount(0);
  }
  await page.goto("/rules?family=hook&criterion=hook.throat");
  await page.getByText("Words used here").click();
  await expect(page.locator(".terms")).toContainText("The way into a hook");
  await expect(page.locator(".terms svg").first()).toBeVisible();
});

test("a record is given out as a certificate and checked without signing in", async ({ page, browser }) => {
  await signIn(page, "admin");
  await page.goto("/heads");
  await page.getByRole("button", { name: "Sign one now" }).click();
  await expect(page.locator("main")).toContainText("entries");
  await page.goto("/piece/HM-0002");
  const record = await page.locator('a[href^="/inspection/"]').first().getAttribute("href");
  const json = await (await page.request.get(`${record}/certificate.json`)).text();
  const outside = await (await browser.newContext()).newPage();
  await outside.goto(new URL("/heads", page.url()).href);
  await outside.getByLabel("The certificate's JSON").fill(json);
  await outside.getByRole("button", { name: "Check it" }).click();
  await expect(outside.locator(".answer")).toContainText("It holds");
  await outside.getByLabel("The certificate's JSON").fill(json.replace("HM-0002", "HM-0003"));
  await outside.getByRole("button", { name: "Check it" }).click();
  await expect(outside.locator(".answer")).toContainText("its words are others");
  await outside.context().close();
});

test("a witness is taken down, the incident file made, and a hand-out to the wrong person put right", async ({ page }) => {
  const OUT = "HM-0305";
  await signIn(page, "stores");
  await page.goto(`/desk?marks=${OUT}`);
  await page.getByLabel("Who takes them").fill("North crew");
  await page.getByLabel("Job").first().fill("Lock 3");
  await page.getByRole("button", { name: "Hand them out" }).click();
  await expect(page.getByRole("status")).toContainText("handed out to North crew");
  await page.goto(`/piece/${OUT}`);
  await page.locator("details.menu summary").click();
  await page.getByRole("link", { name: "Put a record right" }).click();
  await page.getByText("It is wrong").first().click();
  await page.getByLabel("What is wrong with it").fill("They took the one beside it");
  await page.getByLabel("Who has it").fill("South crew");
  await page.getByRole("button", { name: "Put it right" }).click();
  await expect(page.locator("main")).toContainText("Put right: They took the one beside it");
  await page.goto(`/piece/${OUT}`);
  await expect(page.locator("main")).toContainText("South crew");

  await signIn(page, "inspector");
  await page.goto(`/piece/${OUT}/look-back`);
  await page.getByText("Write down what somebody says").click();
  await page.getByLabel("Who says it").fill("The driver");
  await page.getByLabel("In their own words").fill("It let go with a bang.");
  await page.getByRole("button", { name: "Take it down" }).click();
  await expect(page.locator(".witness")).toContainText("It let go with a bang.");
  await page.setViewportSize({ width: 390, height: 844 });
  await noSideways(page);
  const file = await page.request.get(await page.getByRole("link", { name: "Incident file (PDF)" }).getAttribute("href"));
  expect(file.headers()["content-type"]).toBe("application/pdf");
  expect((await file.body()).subarray(0, 5).toString()).toBe("%PDF-");
});
