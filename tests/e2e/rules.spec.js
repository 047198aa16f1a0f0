import { expect, presses, signIn, test, whole } from "./yard.js";

test("a figure tried by the keyboard falls on every book's scale", async ({ page }) => {
  await signIn(page, "crew");
  await page.goto("/rules?family=hook&criterion=hook.throat");
  await expect(page.locator(".scale-limit")).toHaveCount(8); // seven books and the site's own limit
  await page.getByLabel("Try a figure").fill("1.45 in");
  await page.keyboard.press("Enter");
  await expect(page.locator(".scale-tried")).toHaveCount(8);
  await expect(page.locator("tr", { hasText: "OSHA general industry" }).locator(".outcome")).toHaveText("clear");
  await expect(page.locator("tr", { hasText: "This site" }).locator(".outcome")).toHaveText("remove");
  await page.getByLabel("Throat when new").fill("1.40 in");
  await page.keyboard.press("Enter");
  await expect(page.locator("caption")).toContainText("1.4 in");
});

test("a part pressed on the drawing shows what is asked of it", async ({ page }) => {
  await signIn(page, "inspector");
  await page.goto("/rules?family=powered-hoist");
  await page.locator('.map a[data-part="brake"]').click();
  await expect(page.locator(".map g.is-active title")).toHaveText("Brake");
  await page.getByRole("link", { name: "Brake parts" }).click();
  await expect(page.getByRole("heading", { name: /Brake parts/ })).toBeVisible();
  await page.getByText("Other gear of this family").click();
  await page.getByLabel("Load medium").selectOption("rope");
  await page.getByRole("button", { name: "Show these rules" }).click();
  await expect(page.getByRole("link", { name: "Load rope" }).first()).toBeVisible();
});

test("a wire rope sling is inspected along its body, counts and all, until the verdict", async ({ page }) => {
  await signIn(page, "inspector");
  await page.goto("/piece/HM-0071");
  await page.getByRole("button", { name: /inspection|inspecting/ }).click();
  // As it was read last, or a little less: a rope does not grow.
  const figures = { "rope.broken-in-lay": "4", "rope.broken-in-strand": "1", "rope.diameter": "0.97", "rope.outer-wire": "0.052" };
  const hand = presses(page);
  for (let part = 0; part < 8 && !page.url().endsWith("/sign"); part += 1) {
    const name = await page.locator("form[data-part]").getAttribute("data-part");
    await whole(page);
    await page.evaluate(() => document.activeElement?.blur());
    await hand.key("0");
    await expect(page.locator('[data-question]:has(input[value="no"]):not(:has(input[data-field="answer"]:checked))')).toHaveCount(0);
    for (const row of await page.locator('[data-question]:has(input[type="text"][data-field="value"])').all()) {
      await row.locator('[data-field="value"]').fill(figures[await row.getAttribute("data-question")]);
    }
    await page.evaluate(() => document.activeElement?.blur());
    await hand.key("Enter");
    await page.waitForFunction((before) => document.querySelector("form[data-part]")?.dataset.part !== before, name);
  }
  await expect(page).toHaveURL(/\/sign$/);
  await expect(page.locator("main")).toContainText("Broken wires in a lay");
  await page.getByLabel("Your password").fill("lockgate-demo");
  await page.getByRole("button", { name: /^Sign as/ }).click();
  await expect(page.locator("h1")).toContainText("Periodic inspection of HM-0071");
  await expect(page.locator("main .outcome").first()).toHaveText("fit");
  expect(hand.all).toBeLessThan(15);
});

test("a limit set by the qualified person shows what it would change across the register", async ({ page }) => {
  await signIn(page, "qualified");
  await page.goto("/settings");
  await page.locator("[name=criterion]:visible").selectOption("hoistchain.growth");
  await page.locator("[name=figure]").fill("0.01 %");
  await page.getByLabel("Why, or where the figure stands").fill("To see what it would change");
  await page.getByRole("button", { name: "Sign the limit" }).click();
  await expect(page.getByRole("heading", { name: "What it stops" })).toBeVisible();
  await page.getByRole("button", { name: /^Sign it, and hold/ }).click();
  await expect(page.locator("#limits")).toContainText("To see what it would change");
  await page.goto("/settings/again");
  await expect(page.locator("tbody tr", { hasText: "Load chain growth" }).first()).toBeVisible();
  await page.goto("/settings");
  const row = page.locator("#limits tbody tr", { hasText: "To see what it would change" });
  await row.getByText("Withdraw").first().click();
  await row.getByLabel("Why it is withdrawn").fill("Seen");
  await row.getByRole("button", { name: "Withdraw" }).click();
  await expect(page.locator("#limits")).not.toContainText("To see what it would change");

  // What the rule alone held goes with it, by one press.
  await page.goto("/settings/again");
  await page.getByLabel("Why").fill("The limit is withdrawn");
  await page.getByRole("button", { name: "Let them go" }).click();
  await expect(page.locator("tbody tr", { hasText: "Load chain growth" })).toHaveCount(0);
});

test("a program's token is shown once", async ({ page }) => {
  await signIn(page, "admin");
  await page.goto("/settings/tokens");
  await page.getByLabel("What it is for").fill("Store display");
  await page.getByRole("button", { name: "Make a token" }).click();
  const token = await page.locator("#token").textContent();
  const verdict = await page.request.post("/api/v1/judge", { headers: { Authorization: `Bearer ${token}` }, data: { format: "keralith.case/1", gear: { family: "roundsling" }, kind: "frequent", answers: [{ criterion: "round.cover", part: "body", answer: "yes" }] } });
  expect((await verdict.json()).verdict).toBe("hold");
  await page.goto("/settings/tokens");
  await expect(page.locator("main")).not.toContainText(token);
});
