import { expect, noSideways, signIn, test } from "./yard.js";

const shackles = (from, count, store) =>
  ["mark,family,size,pin_type,maker,serial,rated_load,store,peg", ...Array.from({ length: count }, (_, i) => `HX-${from + i},shackle,7/8 in,screw,Pellow Forge,HX${from + i},6-1/2 short ton,${store},${String.fromCharCode(65 + (Math.floor(i / 200) % 26))}-${i % 200}`)].join("\n");

async function sendFile(page, name, text) {
  await page.goto("/register/import");
  await page.locator("input[type=file]").setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  await page.getByRole("button", { name: /Read it and show/ }).click();
}

// A scanner types what it reads and ends with Enter.
async function scan(page, text) {
  await page.evaluate(() => document.activeElement?.blur());
  await page.keyboard.press("/");
  await page.keyboard.type(text, { delay: 2 });
  await page.keyboard.press("Enter");
}

test("the scan field leads from anywhere to the piece by mark, by serial, by a label's code, and to the search by anything else", async ({ page }) => {
  await signIn(page, "inspector");
  await page.goto("/register?q=HM-0042");
  const serial = await page.locator("tr:has(a[href='/piece/HM-0042']) .made .mono").innerText();
  for (const [typed, place] of [["hm-0042", "/piece/HM-0042"], [serial, "/piece/HM-0042"], [`${process.env.KERALITH_URL}/piece/HM-0003`, "/piece/HM-0003"]]) {
    await page.goto("/due");
    await scan(page, typed);
    await expect(page).toHaveURL(new RegExp(`${place}$`));
  }
  await scan(page, "shakle");
  await expect(page.getByRole("status")).toContainText("The nearest spellings");
  await page.keyboard.press("j");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/piece\//);
});

test("a desk shows sixteen pieces at once, a phone gives each two lines, and a heading puts them in order", async ({ page }) => {
  const rows = () => page.locator("[data-rows] tbody tr").evaluateAll((all) => all.map((row) => row.getBoundingClientRect()).map(({ bottom, height }) => ({ bottom, height })));
  await page.setViewportSize({ width: 1280, height: 800 });
  await signIn(page, "stores");
  await page.goto("/register");
  expect((await rows()).filter((row) => row.bottom <= 800).length).toBeGreaterThanOrEqual(16);
  await page.getByRole("link", { name: "Periodic", exact: true }).click();
  await expect(page).toHaveURL(/sort=due/);
  await expect(page.locator("th b")).toHaveText("Periodic");

  // Headings stay in sight.
  await page.mouse.wheel(0, 900);
  await expect.poll(async () => Math.round((await page.locator("th b").boundingBox()).y)).toBeLessThanOrEqual(12);
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto("/register");
  await noSideways(page);
  for (const { height } of await rows()) expect(height).toBeLessThanOrEqual(60);
  await expect(page.getByRole("link", { name: /^in-service/ })).toBeHidden();
  await page.getByText("Narrow down").click();
  await expect(page.getByRole("link", { name: /^in-service/ })).toBeVisible();
});

test("a file shows each row's fate first, lands its good rows, and is harmless when sent twice", async ({ page }) => {
  await signIn(page, "stores");
  const file = `${shackles(1, 3, "Basin Yard")}\nHX-4,shackle,7/8,screw,Pellow Forge,HX4,2 t,Basin Yard,B-1\nHX-1,shackle,7/8 in,screw,Pellow Forge,HX9,2 t,Basin Yard,B-1\n`;
  await sendFile(page, "shackles.csv", file);
  await expect(page.getByRole("status")).toContainText("3 would land, 0 stand in the register just so, 2 refused");
  await expect(page.getByRole("row", { name: /HX-4/ })).toContainText("no unit");
  await expect(page.getByRole("row", { name: /6 HX-1/ })).toContainText("stands in row 2 too");
  const errors = page.waitForEvent("download");
  await page.getByRole("link", { name: "What is wrong, as CSV" }).click();
  expect((await errors).suggestedFilename()).toContain("csv");
  await page.getByRole("button", { name: /Land the 3 good ones/ }).click();
  await expect(page.locator(".answer.yes")).toContainText("3 pieces landed");
  await sendFile(page, "again.csv", shackles(1, 3, "Basin Yard"));
  await expect(page.getByRole("status")).toContainText("0 would land, 3 stand in the register just so, 0 refused");
});

test("a sheet with other headings is matched before it lands", async ({ page }) => {
  await signIn(page, "stores");
  await sendFile(page, "old.csv", "Tag;Type of gear;Dia;Pin;Where\nHX-50;shackle;7/8 in;screw;Basin Yard\n");
  for (const [heading, column] of [["Tag", "mark"], ["Type of gear", "family"], ["Dia", "size"], ["Pin", "pin_type"], ["Where", "store"]]) await page.locator(`select[name="map:${heading}"]`).selectOption(column);
  await page.getByRole("button", { name: "Read it again so" }).click();
  await expect(page.getByRole("status")).toContainText("1 would land");
});

test("ten alike are registered by one form, all or none", async ({ page }) => {
  page.expectedFaults = ["422"];
  await signIn(page, "stores");
  await page.goto("/register/new");
  await page.locator("[name=mark]").fill("HX-100");
  await page.locator("select[name=family]").selectOption("shackle");
  await expect(page.locator("[name=size]")).toBeVisible();
  await page.locator("[name=size]").fill("7/8 in");
  await page.locator("select[name=pinType]").selectOption("screw");
  await expect(page.locator('[name^="baseline:"]').first()).toBeVisible();
  for (const field of await page.locator('input[name^="baseline:"]').all()) await field.fill("7/8 in");
  await page.locator("[name=maker]").fill("Pellow Forge");
  await page.locator("[name=serial]").fill("HX100");
  await page.locator("[name=ratedLoad]").fill("6-1/2 short ton");
  await page.locator("select[name=store]").selectOption({ label: "Basin Yard" });
  for (const box of await page.locator('input[name^="tag:"]').all()) await box.check();
  const more = page.locator("[name=alike]");
  if (!(await more.isVisible())) await page.locator("details:has([name=alike]) > summary").click();
  const lines = Array.from({ length: 9 }, (_, i) => `HX-${101 + i} HX${101 + i}`);
  await more.fill([...lines.slice(0, 8), "HM-0042 HX999"].join("\n"));
  await page.getByRole("button", { name: "Register", exact: true }).click();
  await expect(page.locator("main")).toContainText("HM-0042 is registered already");
  await page.locator("[name=alike]").fill(lines.join("\n"));
  await page.getByRole("button", { name: "Register", exact: true }).click();
  await page.goto("/register?q=HX-10");
  await expect(page.getByRole("status")).toContainText("10 pieces");
});

test("no report is ticked as read before somebody has read it", async ({ page }) => {
  await signIn(page, "inspector");
  await page.goto("/register/take-over");
  const reports = page.locator('form[action*="Accept"] input[type=checkbox]');
  expect(await reports.count()).toBeGreaterThan(0);
  for (const report of await reports.all()) await expect(report).not.toBeChecked();
});

test("labels are shown, printed by the printer's stand-in, and what was found can be labelled at once", async ({ page }) => {
  await signIn(page, "stores");
  await page.goto("/register?q=HM-000");
  await page.getByRole("link", { name: "Labels of these" }).click();
  await expect(page.getByRole("img", { name: "The first sheet of labels" })).toBeVisible();
  expect(await page.locator("img.label-sheet").evaluate((image) => image.decode().then(() => image.naturalWidth > 0))).toBe(true);
  await page.getByRole("button", { name: "Send to the label printer" }).click();
  await expect(page).toHaveURL(/\/labels\/printer/);
  await expect(page.locator("main a[href$='.pdf']").first()).toBeVisible();
});

test("several pieces scanned into one field are hung elsewhere", async ({ page }) => {
  await signIn(page, "crew");
  await page.goto("/register/move");
  await expect(page.locator("[name=marks]")).toBeFocused();
  for (const mark of ["HM-0001", "HM-0002"]) {
    await page.keyboard.type(mark);
    await page.keyboard.press("Enter");
  }
  await page.locator("select[name=store]").selectOption({ label: "Upper Flight" });
  await page.locator("[name=peg]").fill("Z9");
  await page.getByRole("button", { name: "Hang them there" }).click();
  await expect(page.getByRole("status")).toContainText("2 pieces hang there now");
});
