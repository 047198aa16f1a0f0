import { expect, noSideways, signIn, test } from "./yard.js";

test("a trainee's record is handed back, signed again, and countersigned beside the drawing", async ({ page }) => {
  await signIn(page, "qualified");
  await page.goto("/drafts");
  await expect(page.locator("tr", { hasText: "HM-0100" })).toContainText("waits for countersignature");
  await page.getByRole("link", { name: "HM-0100" }).click();
  await expect(page.locator(".map svg.drawing")).toBeVisible();
  await page.getByLabel("What is to be looked at again").fill("Measure the pin once more");
  await page.getByRole("button", { name: "Hand it back" }).click();

  await signIn(page, "trainee");
  await page.goto("/drafts");
  await expect(page.locator("tr", { hasText: "HM-0100" })).toContainText("Measure the pin once more");
  await page.getByRole("link", { name: "HM-0100" }).click();
  await page.getByRole("link", { name: "Verdict so far" }).click();
  await page.getByLabel("Your password").fill("lockgate-demo");
  await page.getByRole("button", { name: "Sign for countersignature" }).click();

  await signIn(page, "inspector");
  await page.goto("/drafts");
  await page.getByRole("link", { name: "HM-0100" }).click();
  await page.getByLabel("Your password").fill("lockgate-demo");
  await page.getByRole("button", { name: /^Countersign as/ }).click();
  await expect(page.locator("main")).toContainText("Inspected by Wren Hallow");
  await page.goto("/piece/HM-0100");
  await expect(page.locator(".answer.yes")).toContainText("May be used");
});

test("a wrong password signs nothing and keeps what was chosen", async ({ page }) => {
  page.expectedFaults = ["422"];
  await signIn(page, "inspector");
  await page.goto("/piece/HM-0044");
  await page.getByRole("button", { name: "Inspection after the event" }).click();
  while (!page.url().endsWith("/sign")) {
    const before = page.url();
    await page.getByRole("button", { name: "No fault found on this part" }).click();

    // A tap on the drawing says where; the practice caliper types into the figure in hand and its Enter leads on.
    const figure = page.locator('[data-question] [data-field="value"]');
    if (await figure.count()) {
      await page.locator(".map svg.drawing").click({ position: { x: 20, y: 20 } });
      await expect(page.locator(".pin.is-new")).toHaveCount(1);
      if (!(await page.getByRole("button", { name: "Measure" }).isVisible())) await page.getByText("Practice caliper", { exact: true }).click();
      await figure.first().focus();
      await page.getByRole("button", { name: "Measure" }).click();
    } else {
      await page.locator("button[data-next]").click();
    }
    await expect(page).not.toHaveURL(before);
  }
  await page.getByText("Be stricter than the rules").click();
  await page.locator("select[name=verdict]").selectOption("hold");
  await page.locator("input[name=reason]").fill("The pin squeals as it turns");
  await page.getByLabel("Your password").fill("not this one");
  await page.getByRole("button", { name: /^Sign as/ }).click();
  await expect(page.getByRole("alert")).toContainText("not your password");
  await expect(page.locator("input[name=reason]")).toHaveValue("The pin squeals as it turns");
  await page.getByLabel("Your password").fill("lockgate-demo");
  await page.getByRole("button", { name: /^Sign as/ }).click();
  await expect(page.locator("main")).toContainText("Stricter than the rules: The pin squeals as it turns");
  await expect(page.locator("main")).toContainText("Where it was found");
  expect(await page.locator("svg.drawing .pin").count()).toBeGreaterThan(0);
  await expect(page.locator("main")).toContainText("Caliper C-114");
});

test("a wrong record is corrected: readings one after the other, a picture, both records readable", async ({ page }) => {
  await signIn(page, "qualified");
  await page.goto("/piece/HM-0046");
  await page.locator("ol a[href^='/inspection/']", { hasText: "Periodic" }).first().click();
  const wrong = page.url();
  await page.getByText("This record is wrong").click();
  await page.getByLabel("What is wrong with it").fill("The bow was measured in one place only");
  await page.getByRole("button", { name: "Correct it" }).click();
  await expect(page.locator(".notice")).toContainText("The bow was measured in one place only");
  await page.locator(".parts-line a", { hasText: "Bow" }).first().click();

  const row = page.locator('[data-question="shackle.wear-body"]');
  await expect(row.locator(".guide-drawing")).toBeVisible();
  const asFound = await row.locator('[data-field="value"]').inputValue();
  await row.locator('[data-field="value"]').press("End");
  await page.keyboard.press("+");
  await page.keyboard.type(asFound);
  await row.getByRole("button", { name: /Another reading/ }).click();
  await page.keyboard.type(asFound);
  await expect(row.locator("[data-result]")).toContainText("The worst of 3");

  // A picture chosen is kept at once; what is no picture is said.
  await row.locator(".more summary").click();
  await row.locator("[data-photo]").setInputFiles({ name: "bow.svg", mimeType: "image/svg+xml", buffer: Buffer.from("<svg/>") });
  await expect(page.locator("form [role=status]")).toContainText("this is neither");
  await row.locator("[data-photo]").setInputFiles({ name: "bow.png", mimeType: "image/png", buffer: await page.locator("h1").screenshot() });
  await expect(row.locator(".photos img")).toHaveCount(1);
  await page.getByRole("link", { name: "Verdict so far" }).click();
  await page.getByLabel("Your password").fill("lockgate-demo");
  await page.getByRole("button", { name: /^Sign as/ }).click();
  await expect(page.locator("main")).toContainText("In the place of a wrong record");
  await expect(page.locator(".photos img")).toHaveCount(1);
  await page.goto(wrong);
  await expect(page.locator("main")).toContainText("another record stands in its place");
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test("something happened: all of it is held in a few touches", async ({ page }) => {
    await signIn(page, "crew");
    await page.goto("/piece/HM-0041");
    await page.getByText("More", { exact: true }).and(page.locator("summary")).tap();
    await page.getByRole("link", { name: "Something happened to it" }).tap();
    await page.getByText("overload", { exact: true }).tap();
    await page.getByLabel("What happened, where, who saw it").fill("The paddle jammed and the hoist pulled on");
    await noSideways(page);
    await page.getByRole("button", { name: "Hold all of it" }).tap();
    await expect(page.getByRole("status")).toContainText("1 piece is on hold");
    await page.goto("/piece/HM-0041");
    await expect(page.locator(".answer.no")).toContainText("overload on");
  });
});

test("the due list is narrowed by a week, and the season's progress grows as marks go on", async ({ page }) => {
  await signIn(page, "inspector");
  await page.goto("/due");
  const week = page.locator("svg.weeks a").nth(2);
  await week.click();
  await expect(page).toHaveURL(/week=/);
  await expect(page.locator("main")).toContainText("What runs out in the week from");
  await page.goto("/season?store=1");
  const row = page.locator("tr", { hasText: "paint it" }).first();
  const mark = await row.locator("a").first().innerText();
  await page.locator("textarea[name=marks]").fill(mark);
  await page.getByRole("button", { name: /^They carry/ }).click();
  await expect(page.getByRole("status")).toContainText("1 piece carries the mark now");
});
