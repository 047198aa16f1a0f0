import { axeFaults, expect, noSideways, signIn, test } from "./yard.js";

const views = ["/", "/register", "/register/new?family=alloy-chain-sling", "/piece/HM-0002", "/piece/HM-0002/edit", "/piece/HM-0002/hold", "/piece/HM-0002/check", "/due", "/cage", "/cage/HM-0011", "/cage/HM-0021", "/rules", "/rules?family=shackle", "/rules?family=hook&criterion=hook.throat&figure=1.45+in", "/rules?family=wire-rope-sling&part=leg-1&criterion=rope.kink", "/rules/sheet?family=powered-hoist", "/settings", "/settings/again", "/piece/HM-0077", "/register/new?family=sling-kit", "/piece/HM-0148/yard", "/piece/HM-0002/files", "/register/import", "/register/take-over", "/register/look?family=shackle&size=7%2F8+in", "/labels?marks=HM-0001+HM-0002", "/labels/printer", "/?only=overdue", "/ledger", "/drafts", "/account", "/season", "/season?store=2", "/event", "/instruments", "/settings/people", "/due?family=shackle", "/due/hoists", "/due/outbox", "/register/move", "/desk", "/lift", "/settings/questions?family=lever-hoist", "/settings/proof-tests", "/piece/HM-0044", "/piece/HM-0001", "/round", "/recall?maker=Pellow+Forge&model=Bow", "/retired", "/piece/HM-0009/look-back", "/piece/HM-0148/records", "/heads", "/teaches", "/teaches/prices", "/teaches/records?of=store&is=Weir+House"];

for (const [scheme, width] of [["light", 1280], ["dark", 1280], ["light", 390], ["dark", 390]]) {
  test(`axe finds nothing on any view, ${scheme}, ${width} px`, async ({ page }) => {
    test.setTimeout(600_000);
    await page.setViewportSize({ width, height: width === 390 ? 844 : 800 });
    await page.emulateMedia({ colorScheme: scheme });
    await page.goto("/sign-in");
    await axe(page);
    await signIn(page, "qualified");
    for (const view of views) {
      await page.goto(view);
      await axe(page);
    }
    await signIn(page, "admin");
    for (const view of ["/settings", "/settings/tokens"]) {
      await page.goto(view);
      await axe(page);
    }
    await signIn(page, "qualified");
    await page.goto("/piece/HM-0043");
    await page.getByRole("button", { name: /inspection|inspecting/ }).click();
    const inspect = page.url();
    await axe(page);
    await page.goto(`${inspect}?part=pin`);
    await axe(page);
    await page.goto(`${inspect}/sign`);
    await axe(page);
    await page.goto("/piece/HM-0011");
    await page.locator("ol a").first().click();
    await axe(page);
    await page.goto("/piece/HM-0045");
    await axe(page);
    await page.locator("ol a.struck").click();
    await page.getByText("In the place of").or(page.getByText("another record stands in its place")).first().waitFor();
    await axe(page);
  });
}

test("axe as it is run here finds what is wrong", async ({ page }) => {
  await page.goto("/sign-in");
  expect(await axeFaults(page)).toEqual([]);
  await page.evaluate(() => {
    document.body.append(document.createElement("input"), Object.assign(document.createElement("p"), { innerText: "pale" }));
    Object.assign(document.body.lastChild.style, { color: "#bbb", background: "#fff" });
  });
  expect((await axeFaults(page)).map((f) => f.split(" ")[1]).toSorted()).toEqual(["color-contrast:", "label:"]);
});

test("every view fits 360 px without sideways scrolling", async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 780 });
  await signIn(page, "qualified");
  for (const view of views) {
    await page.goto(view);
    await noSideways(page);
  }

  // A sling of many parts, a part with figures on it, its notes open.
  await page.goto("/piece/HM-0047");
  await page.getByRole("button", { name: /inspection|inspecting/ }).click();
  for (const part of ["tag", "leg-1", "leg-1/hook"]) {
    await page.goto(`${page.url().split("?")[0]}?part=${part}`);
    for (const note of await page.locator("[data-question] summary:visible").all()) await note.click();
    await noSideways(page);
  }
  await page.goto("/piece/HM-0045");
  await page.locator("ol a.struck").click();
  await noSideways(page);
});

test("the scheme a person chose stays", async ({ page }) => {
  await page.emulateMedia({ colorScheme: "light" });
  await signIn(page, "crew");
  await page.goto("/account");
  await page.getByRole("button", { name: "Day or night sheet" }).click();
  await page.goto("/");
  await expect(page.locator("html")).toHaveAttribute("data-scheme", "night");
});

async function axe(page) {
  expect.soft(await axeFaults(page)).toEqual([]);
}
