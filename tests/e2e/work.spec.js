import { expect, noSideways, signIn, test, whole } from "./yard.js";

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
    await whole(page);
    const before = page.url();
    await page.getByRole("button", { name: "No fault found on this part" }).click();

    // A tap on the drawing says where; the practice caliper types into the figure in hand and its Enter leads on.
    const figure = page.locator('[data-question] [data-field="value"]');
    if (await figure.count()) {
      await page.locator(".map svg.drawing").click({ position: { x: 20, y: 20 } });
      await expect(page.locator(".pin.is-new")).toHaveCount(1);
      if (!(await page.getByRole("button", { name: "Measure" }).isVisible())) await page.getByText("Simulated caliper", { exact: true }).click();
      await figure.first().focus();
      await page.getByRole("button", { name: "Measure" }).click();
    } else {
      await page.locator("button[data-next]").click();
    }
    await expect(page).not.toHaveURL(before);
  }
  await page.getByText("Be stricter than the rules").click();
  // The practice caliper reads the pin as new, which is better than it was: that alone holds.
  await page.locator("select[name=verdict]").selectOption("remove");
  await page.locator("input[name=reason]").fill("The pin squeals as it turns");
  await page.getByLabel("Your password").fill("not this one");
  await page.getByRole("button", { name: /^Sign as/ }).click();
  await expect(page.getByRole("alert")).toContainText("not your password");
  await expect(page.locator("input[name=reason]")).toHaveValue("The pin squeals as it turns");
  await page.getByLabel("Your password").fill("lockgate-demo");
  await page.getByRole("button", { name: /^Sign as/ }).click();
  await expect(page.locator("main")).toContainText("Stricter than the rules: The pin squeals as it turns");
  await expect(page.locator("main")).toContainText("It does not heal");
  await expect(page.locator("main")).toContainText("Where it was found");
  await expect(page.locator("svg.drawing .pin")).not.toHaveCount(0);
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

test.describe("scanning with a camera the browser brings no reader for", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  const seen = {
    "as printed": {},
    tilted: { turn: 0.35 },
    dim: { light: 0.35 },
    dirty: { spots: 14 },
    "tilted, dim and dirty": { turn: -0.5, light: 0.5, spots: 8 },
  };
  for (const [how, look] of Object.entries(seen)) {
    test(`a label of our own is read from a picture of it: ${how}`, async ({ page }) => {
      await signIn(page, "crew");
      const picture = await pictureOfLabel(page, "HM-0041", look);
      await page.getByRole("link", { name: "Scan" }).tap();
      await expect(page.getByRole("status").filter({ hasText: "Type the mark instead" })).toBeVisible();
      const chosen = page.waitForEvent("filechooser");
      await page.getByRole("button", { name: "Take a picture" }).tap();
      await (await chosen).setFiles({ name: "label.png", mimeType: "image/png", buffer: picture });
      await page.waitForURL(/\/piece\/HM-0041$/);
    });
  }

  test("a picture without a code says so, and the mark can be typed", async ({ page }) => {
    await signIn(page, "crew");
    const blank = await page.locator("h1").screenshot();
    await page.getByRole("link", { name: "Scan" }).tap();
    const chosen = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: "Take a picture" }).tap();
    await (await chosen).setFiles({ name: "blank.png", mimeType: "image/png", buffer: blank });
    await expect(page.getByPlaceholder("No code in that picture")).toBeFocused();
  });
});

// A label as a camera sees it: the drawing of the sheet, cut out, turned, darkened, with spots of grease on it.
async function pictureOfLabel(page, mark, { turn = 0, light = 1, spots = 0 }) {
  const svg = await (await page.request.get(`/labels/sheet.svg?marks=${mark}`)).text();
  const url = await page.evaluate(
    async ({ svg, turn, light, spots }) => {
      const sheet = Object.assign(new Image(), { src: `data:image/svg+xml;base64,${btoa(unescape(encodeURIComponent(svg)))}` });
      await sheet.decode();
      const canvas = Object.assign(document.createElement("canvas"), { width: 1200, height: 900 });
      const brush = canvas.getContext("2d");
      brush.fillStyle = "#777";
      brush.fillRect(0, 0, 1200, 900);
      brush.translate(600, 450);
      brush.rotate(turn);
      const scale = 4;
      brush.drawImage(sheet, -180 * (scale / 2), -120 * (scale / 2), sheet.width * (scale / 2), sheet.height * (scale / 2));
      brush.setTransform(1, 0, 0, 1, 0, 0);
      for (let i = 0; i < spots; i++) {
        brush.fillStyle = "#333";
        brush.beginPath();
        brush.arc(((i * 197) % 1100) + 50, ((i * 131) % 800) + 50, 5, 0, 7);
        brush.fill();
      }
      brush.fillStyle = `rgba(0, 0, 0, ${1 - light})`;
      brush.fillRect(0, 0, 1200, 900);
      return canvas.toDataURL("image/png");
    },
    { svg, turn, light, spots },
  );
  return Buffer.from(url.split(",")[1], "base64");
}
