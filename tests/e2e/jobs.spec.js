// The jobs of a day, each as the person whose it is does it, with its presses counted: clicks, and keys that are no part of what
// is typed. A budget is what the job takes today; more is a step too many.
import { expect, presses, signIn, test } from "./yard.js";

const jobs = [
  ["crew", "looks a piece over before use: scan, look, one press", 3, async (page, hand) => {
    await scan(page, hand, "HM-0041");
    await hand.click(page.getByRole("link", { name: "Frequent check" }));
    await hand.click(page.getByRole("button", { name: "Looked over whole, no fault found" }));
    await expect(page.locator("main")).toContainText("Frequent check");
  }],
  ["crew", "stops a piece: scan, hold, why", 3, async (page, hand) => {
    await scan(page, hand, "HM-0016");
    await hand.click(page.getByRole("link", { name: "Put on hold" }));
    await page.getByLabel(/What/).first().fill("The pin squeals");
    await hand.click(page.getByRole("button", { name: /hold/i }).last());
    await expect(page.locator("main")).toContainText("On hold");
  }],
  ["crew", "finds a mark typed without its dash", 1, async (page, hand) => {
    await scan(page, hand, "hm0041");
    await expect(page).toHaveURL(/\/piece\/HM-0041$/);
  }],
  ["stores", "hands three pieces out to one job by scanning", 2, async (page, hand) => {
    await hand.click(places(page, "Desk"));
    await page.getByLabel("Marks, scanned one after the other").first().fill("HM-0001\nHM-0004\nHM-0010");
    await page.getByLabel("Who takes them").fill("Maud Tarrow");
    await page.getByLabel("Job").first().fill("Lock 9");
    await hand.click(page.getByRole("button", { name: "Hand them out" }));
    await expect(page.getByRole("status")).toContainText("3 pieces handed out to Maud Tarrow");
  }],
  ["crew", "sees who has what, since when", 1, async (page, hand) => {
    await hand.click(places(page, "Desk"));
    await expect(page.getByRole("form", { name: "Maud Tarrow" })).toContainText("HM-0004");
  }],
  ["crew", "hands a piece over to the next, and has it back, without the store", 8, async (page, hand) => {
    for (const [from, to] of [["Maud Tarrow", "North crew"], ["North crew", "Maud Tarrow"]]) {
      await hand.click(places(page, "Desk"));
      const form = page.getByRole("form", { name: from });
      await hand.click(form.getByRole("checkbox", { name: "HM-0010" }));
      await hand.click(form.getByText("Hand those ticked over"));
      await form.getByLabel("Who has them next").fill(to);
      await hand.click(form.getByRole("button", { name: "Hand them over" }));
      await expect(page.getByRole("status")).toContainText(`handed over to ${to}`);
      await expect(page.getByRole("form", { name: to })).toContainText("HM-0010");
    }
  }],
  ["stores", "takes back what somebody has by ticking", 5, async (page, hand) => {
    await hand.click(places(page, "Desk"));
    for (const mark of ["HM-0001", "HM-0004", "HM-0010"]) await hand.click(page.getByRole("checkbox", { name: mark }));
    await hand.click(page.getByRole("form", { name: "Maud Tarrow" }).getByRole("button", { name: /are back/ }));
    await expect(page.getByRole("status")).toContainText("3 pieces taken back");
  }],
  ["stores", "prints labels of two pieces found in the register", 6, async (page, hand) => {
    await hand.click(places(page, "Register"));
    await page.waitForURL(/\/register/);
    for (const key of ["j", "x", "j", "x"]) await hand.key(key);
    await hand.click(page.getByRole("button", { name: "Labels" }));
    await expect(page.locator("main")).toContainText("2 labels");
  }],
  ["stores", "begins a new piece as its twin", 3, async (page, hand) => {
    await hand.click(places(page, "Register"));
    await hand.click(page.getByRole("link", { name: "Register a piece" }));
    await page.getByLabel("Begin as another piece").fill("HM-0004");
    await hand.key("Enter");
    await expect(page.locator("[name=size]")).toHaveValue("1/2 in");
    await expect(page.locator("[name=serial]")).toHaveValue("");
  }],
  ["inspector", "sends the store's due list to somebody", 3, async (page, hand) => {
    await hand.click(places(page, "Due"));
    await hand.click(page.getByText("Send this list"));
    await page.locator("select[name=to]").selectOption({ index: 0 });
    await hand.click(page.getByRole("button", { name: "Send it" }));
    await expect(page.getByRole("status")).toContainText("On its way to");
  }],
  ["inspector", "reads everything the ledger has of one piece", 2, async (page, hand) => {
    await scan(page, hand, "HM-0007");
    await hand.click(page.getByRole("link", { name: "Its entries in the ledger" }));
    await expect(page.locator("table.ledger tbody tr").last()).toContainText("registered");
  }],
  ["crew", "begins a lift, which asks for the load and calls nothing a fault", 2, async (page, hand) => {
    await hand.click(places(page, "Lift"));
    await hand.click(page.getByRole("button", { name: "Put a lift together" }));
    await expect(page.locator(".answer").first()).toContainText("Begin with the load");
    await expect(page.locator(".fault:visible").filter({ hasText: /./ })).toHaveCount(0);
    await page.getByLabel("Lift", { exact: true }).fill("Boiler door");
    await expect(page.locator("h1")).toHaveText("Boiler door");
  }],
  ["qualified", "sets a question of the site's own, and it is asked", 5, async (page, hand) => {
    await hand.click(places(page, "Settings"));
    await hand.click(page.getByRole("link", { name: "Questions the site asks of its own" }));
    await page.getByLabel("Asked of").selectOption("rope-grip-hoist");
    await hand.click(page.getByRole("button", { name: "Choose" }));
    await page.locator("select[name=part]").selectOption("anchor");
    await page.getByLabel(/^Name/).fill("Anchor plate");
    await page.getByLabel(/^What counts as the fault/).fill("The anchor plate has no works number.");
    await page.getByLabel("How it is looked for or tried").fill("Stamped beside the eye.");
    await page.getByLabel(/^Where it comes from/).fill("Works instruction 14");
    await page.getByLabel("Why it is asked here").fill("Two plates were swapped");
    await hand.click(page.getByRole("button", { name: "Sign the question" }));
    await expect(page.locator("ol")).toContainText("Anchor plate");
    await page.goto("/rules/sheet?family=rope-grip-hoist");
    await expect(page.locator("main")).toContainText("The anchor plate has no works number.");
  }],
];

for (const [who, job, budget, work] of jobs) {
  test(`${who} ${job}: ${budget} ${budget === 1 ? "press" : "presses"}`, async ({ page }) => {
    await signIn(page, who);
    const hand = presses(page);
    await work(page, hand);
    expect(hand.all).toBeLessThanOrEqual(budget);
  });
}

test("the keys are shown by ? and gone by Escape", async ({ page }) => {
  await signIn(page, "crew");
  await page.goto("/cage");
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toContainText("no fault found on this part");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeHidden();
});

test("what is pressed on a phone is 44 px and more", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "qualified");
  for (const view of ["/", "/desk", "/register", "/due", "/cage", "/lift", "/piece/HM-0041", "/piece/HM-0041/check", "/piece/HM-0041/hold", "/settings/questions", "/ledger"]) {
    await page.goto(view);
    const small = await page
      .locator("a.press:visible, button.press:visible, summary.press:visible, select:visible, input:visible:not([type=checkbox]):not([type=radio]), .thumbs a:visible, .wall-map a:visible")
      .evaluateAll((all) => all.map((e) => [e.textContent.trim() || e.name, e.getBoundingClientRect()]).filter(([, box]) => box.height < 43.5 || box.width < 39.5).map(([what, box]) => `${what} ${Math.round(box.width)} x ${Math.round(box.height)}`));
    expect.soft(small, view).toEqual([]);
  }
});

async function scan(page, hand, mark) {
  await page.locator("#scan").fill(mark);
  await page.locator("#scan").focus();
  await hand.key("Enter");
}

function places(page, name) {
  return page.getByRole("navigation", { name: "Places", exact: true }).getByRole("link", { name, exact: true });
}
