import Alpine from "@alpinejs/csp";
import { bench, cell } from "./bench.js";
import { startCamera } from "./camera.js";
import { inspectPart } from "./inspect.js";

// The scan field is always there: "/" goes to it from anywhere but a field.
document.addEventListener("keydown", (event) => {
  const inField = /^(INPUT|TEXTAREA|SELECT)$/.test(document.activeElement?.tagName ?? "") && !["radio", "checkbox"].includes(document.activeElement.type);
  if (event.key === "/" && !inField && !event.ctrlKey && !event.metaKey) {
    event.preventDefault();
    document.getElementById("scan")?.focus();
  }
});

// What keys there are, by "?".
document.addEventListener("keydown", (event) => {
  if (event.key !== "?" || /^(INPUT|TEXTAREA|SELECT)$/.test(document.activeElement?.tagName ?? "")) return;
  const keys = document.getElementById("keys");
  if (keys && !keys.open) keys.showModal();
});

// Rows are walked with j and k or the arrows; Enter opens the one in hand.
document.addEventListener("keydown", (event) => {
  const step = { j: 1, ArrowDown: 1, k: -1, ArrowUp: -1 }[event.key];
  const rows = [...document.querySelectorAll("[data-rows] tbody tr")].map((row) => row.querySelector("a")).filter(Boolean);
  if (event.key === "x" && rows.includes(document.activeElement)) {
    document.activeElement.closest("tr").querySelector('input[type="checkbox"]')?.click();
    return;
  }
  if (!step || rows.length === 0 || event.ctrlKey || event.metaKey || event.altKey) return;
  if (/^(INPUT|TEXTAREA|SELECT|SUMMARY)$/.test(document.activeElement?.tagName ?? "")) return;
  event.preventDefault();
  const at = rows.indexOf(document.activeElement);
  rows[Math.min(rows.length - 1, Math.max(0, at + step))].focus();
});

startCamera();
Alpine.data("inspectPart", inspectPart);
Alpine.data("bench", bench);
Alpine.data("cell", cell);

// Day or night, as this person chose on this device.
Alpine.data("scheme", () => ({
  flip() {
    const night = document.documentElement.dataset.scheme === "night" || (!document.documentElement.dataset.scheme && matchMedia("(prefers-color-scheme: dark)").matches);
    const scheme = night ? "day" : "night";
    document.documentElement.dataset.scheme = scheme;
    document.cookie = `scheme=${scheme}; path=/; max-age=31536000; samesite=lax`;
  },
}));

Alpine.data("prints", () => ({
  print() {
    window.print();
  },
}));

// A radio tag's number, read by the phone where it can.
Alpine.data("radioTag", () => ({
  none: !("NDEFReader" in window),
  async read() {
    try {
      const reader = new window.NDEFReader();
      reader.addEventListener("reading", (event) => {
        this.$refs.code.value = event.serialNumber.replaceAll(":", "");
      });
      await reader.scan();
    } catch {
      this.$refs.code.placeholder = "The phone can't read it: type its number";
    }
  },
}));

// Pieces chosen in a list: what can be done with all of them shows once one is.
Alpine.data("chosen", () => ({
  count: 0,
  init() {
    this.changed();
  },
  changed() {
    this.count = this.$el.querySelectorAll('input[name="marks"]:checked').length;
  },
  get none() {
    return this.count === 0;
  },
  get words() {
    return this.count === 1 ? "1 chosen:" : `${this.count} chosen:`;
  },
}));

// The wall from afar, nearer or farther: by + and -, or the buttons.
Alpine.data("wallZoom", () => ({
  zoom: 1,
  key(event) {
    if (event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName)) return;
    if (event.key === "+") this.nearer();
    else if (event.key === "-") this.farther();
  },
  nearer() {
    this.set(Math.min(3, this.zoom * 1.3));
  },
  farther() {
    this.set(Math.max(0.6, this.zoom / 1.3));
  },
  set(zoom) {
    this.zoom = zoom;
    this.$root.querySelector(".wall-map").style.setProperty("--zoom", zoom);
  },
}));

// What narrows a list down folds where it would push the list out of sight.
Alpine.data("narrow", () => ({
  init() {
    if (matchMedia("(max-width: 60rem)").matches) this.$el.open = false;
  },
}));

// A form sent twice is one record by its id; the press is locked so that nobody wonders.
Alpine.data("once", () => ({
  sent: false,
  send(event) {
    if (this.sent) event.preventDefault();
    this.sent = true;
  },
}));

// A register form asks again when the family or an attribute that changes the questions is chosen.
Alpine.data("asksAgain", () => ({
  again() {
    this.$refs.again.click();
  },
}));

window.addEventListener("pageshow", (event) => {
  if (event.persisted) location.reload();
});

Alpine.start();
