// The bench works out every change on the server and shows what came back; nothing is decided here.

const TYPING_MS = 160;
const RETRY_MS = 2500;
const STEP_MM = 50;
const STEPS_KEPT = 60;
const NOT_OF_THE_PLAN = new Set(["Submission", "version", "add", "off", "seen", "chart-lines", "chart-file", "chart-from"]);
const PER_MM = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 };

export function bench() {
  return {
    state: "",
    waiting: false,
    canUndo: false,
    canRedo: false,

    init() {
      this.form = this.$refs.form;
      this.timer = null;
      this.labels = this.partLabels();
      this.seen = this.snapshot();
      this.past = [];
      this.future = [];
      this.last = this.seen;
      this.shown();
      this.grips();
    },

    typed(event) {
      if (event.target.name === "name") this.$root.querySelector("h1").textContent = event.target.value || "A lift without a name";
      if (event.target.name === "add") return;
      clearTimeout(this.timer);
      this.timer = setTimeout(() => this.work(), TYPING_MS);
    },

    changed(event) {
      if (event.target.name === "add") return;
      this.shown();
      clearTimeout(this.timer);
      this.work();
    },

    // What a choice makes needless is out of the way; it is kept all the same.
    shown() {
      const chosen = new FormData(this.form);
      const value = (name) => chosen.get(name) ?? this.form.elements[name]?.value ?? "";
      for (const block of this.form.querySelectorAll("[data-when]")) {
        const [name, wanted] = block.dataset.when.split(":");
        block.hidden = !wanted.split(" ").includes(value(name));
      }
      // The next line of the way opens when the one before has its height.
      let passed = true;
      for (const row of this.form.querySelectorAll("[data-way]")) {
        const high = this.form.elements[`way-${row.dataset.way}-clear`]?.value;
        row.hidden = Number(row.dataset.way) > 2 && !passed && !high;
        passed = Boolean(high);
      }
      let before = true;
      for (const row of this.form.querySelectorAll("[data-part-row]")) {
        const shape = row.querySelector("select");
        row.hidden = !before && !shape.value;
        before = Boolean(shape.value);
        const asks = this.labels?.[shape.value];
        for (const size of row.querySelectorAll("[data-size]")) {
          const at = Number(size.dataset.size);
          size.hidden = at >= (asks?.length ?? 0);
          if (asks?.[at]) size.querySelector("label").firstChild.textContent = asks[at];
        }
        for (const made of row.querySelectorAll("[data-made]")) made.hidden = !shape.value || (made.dataset.when && value("stand") !== "points");
      }
    },

    partLabels() {
      return {
        box: ["Length", "Width", "Height"],
        cylinder: ["Diameter", "Length"],
        pipe: ["Outside diameter", "Wall", "Length"],
        sphere: ["Diameter"],
        prism: ["Section area", "Length"],
        linear: ["Weight for each length", "Length"],
      };
    },

    // The plan as it is typed: what of it is no file and no press.
    snapshot() {
      const plan = {};
      for (const [name, value] of new FormData(this.form)) {
        if (typeof value === "string" && value !== "" && !NOT_OF_THE_PLAN.has(name) && !name.startsWith("_")) plan[name] = value;
      }
      return plan;
    },

    // Every change kept is a step that can be taken back.
    remember() {
      const now = this.snapshot();
      if (JSON.stringify(now) === JSON.stringify(this.last)) return;
      this.past.push(this.last);
      if (this.past.length > STEPS_KEPT) this.past.shift();
      this.future = [];
      this.last = now;
      this.steps();
    },

    steps() {
      this.canUndo = this.past.length > 0;
      this.canRedo = this.future.length > 0;
    },

    undo() {
      this.remember();
      this.step(this.past, this.future);
    },

    redo() {
      this.step(this.future, this.past);
    },

    step(from, to) {
      if (from.length === 0) return;
      to.push(this.last);
      this.last = from.pop();
      this.fill(this.last);
      this.steps();
      this.work();
    },

    // Writes a plan into the form; rows of gear are put on and taken off by the server alone.
    fill(plan, sent) {
      for (const field of this.form.elements) {
        if (!field.name || NOT_OF_THE_PLAN.has(field.name) || field.name.startsWith("_") || field.name.startsWith("piece-") || field.type === "file") continue;
        const value = plan[field.name] ?? "";
        if (field.type === "radio") field.checked = field.value === value;
        else if (field.type === "checkbox") field.checked = field.value === value;
        else if (field.tagName !== "BUTTON" && (field !== document.activeElement || (sent && plan[field.name] !== sent[field.name]))) field.value = field.tagName === "SELECT" && value === "" ? field.options[0]?.value ?? "" : value;
      }
      for (const name of new Set([...this.form.querySelectorAll("input[type=radio]")].map((r) => r.name))) {
        const group = [...this.form.querySelectorAll(`input[type=radio][name="${name}"]`)];
        if (!group.some((r) => r.checked)) group[0].checked = true;
      }
      this.shown();
    },

    async work() {
      if (this.leaving) return;
      if (this.working) {
        this.again = true;
        return;
      }
      this.working = true;
      clearTimeout(this.retry);
      try {
        this.remember();
        const sent = this.snapshot();
        const body = new FormData(this.form);
        body.delete("chart-file");
        body.append("seen", JSON.stringify(this.seen));
        const response = await fetch(this.form.dataset.workUrl, { method: "POST", body, headers: { Accept: "text/html" } });
        if (response.status === 401 || response.redirected) {
          this.say("Your sign-in has lapsed: sign in again in another tab, then go on here.", true);
          return;
        }
        if (!response.ok) throw new Error(String(response.status));
        this.$refs.version.value = response.headers.get("X-Lift-Version") ?? this.$refs.version.value;
        const held = document.activeElement?.dataset?.point ? `[data-point="${document.activeElement.dataset.point}"][data-axis="${document.activeElement.dataset.axis}"]` : null;
        this.$refs.worked.innerHTML = await response.text();
        const merged = this.$refs.worked.querySelector("[data-fields]");
        this.seen = merged ? JSON.parse(merged.dataset.fields) : sent;
        if (merged) {
          this.fill(this.seen, sent);
          this.last = this.snapshot();
        }
        this.faults();
        this.grips();
        if (held) this.$refs.worked.querySelector(held)?.focus();
        this.say("Worked out and kept.", false);
      } catch {
        this.say("Not worked out: the server does not answer. It is tried again.", true);
        this.retry = setTimeout(() => this.work(), RETRY_MS);
      } finally {
        this.working = false;
        if (this.again && !this.leaving) {
          this.again = false;
          this.work();
        }
      }
    },

    faults() {
      const faults = JSON.parse(this.$refs.worked.querySelector("[data-faults]")?.dataset.faults ?? "{}");
      for (const line of this.form.querySelectorAll("[data-fault]")) line.textContent = faults[line.dataset.fault] ?? "";
    },

    // Points are taken hold of in the drawing, by pointer or by arrow keys, and written into their fields.
    grips() {
      for (const grip of this.$refs.worked.querySelectorAll("[data-point]")) {
        grip.addEventListener("pointerdown", (event) => this.drag(event, grip));
        grip.addEventListener("keydown", (event) => {
          const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
          if (!by) return;
          event.preventDefault();
          const step = event.shiftKey ? STEP_MM / 5 : STEP_MM;
          this.move(grip, by[0] * step, by[1] * step);
          this.work();
        });
      }
    },

    drag(event, grip) {
      event.preventDefault();
      const svg = grip.ownerSVGElement;
      const matrix = svg.getScreenCTM().inverse();
      const at = (e) => new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
      const scale = Number(grip.dataset.scale);
      let last = at(event);
      const moved = (e) => {
        const now = at(e);
        grip.setAttribute("transform", `translate(${now.x.toFixed(1)} ${now.y.toFixed(1)})`);
        this.move(grip, (now.x - last.x) * scale, (last.y - now.y) * scale);
        last = now;
      };
      const done = () => {
        removeEventListener("pointermove", moved);
        removeEventListener("pointerup", done);
        this.work();
      };
      addEventListener("pointermove", moved);
      addEventListener("pointerup", done);
    },

    move(grip, along, up) {
      this.shift(`${grip.dataset.point}-x`, along);
      this.shift(`${grip.dataset.point}-${grip.dataset.axis}`, up);
    },

    // A field keeps the unit it was written in; a bare figure is in the plan's.
    shift(name, mm) {
      const field = this.form.elements[name];
      if (!field || mm === 0) return;
      const [, figure, unit] = /^\s*(-?[\d.]*)\s*(mm|cm|m|in|ft)?\s*$/.exec(field.value) ?? [];
      if (figure === undefined) return;
      const per = PER_MM[unit ?? this.form.elements.unit.value] ?? 1;
      const places = per >= 100 ? 3 : per > 10 ? 2 : 0;
      field.dataset.exact = String((Number(field.dataset.from === field.value ? field.dataset.exact : Number(figure || 0) * per)) + mm);
      field.value = `${Number((Number(field.dataset.exact) / per).toFixed(places))}${unit ? ` ${unit}` : ""}`;
      field.dataset.from = field.value;
    },

    // Enter in the scan field puts the piece on.
    add(event) {
      event.preventDefault();
      this.form.querySelector('button[formaction$="handler=Add"]').click();
    },

    // A press that leaves the page takes what is typed with it; what is under way is kept first, so that it meets its own version.
    async plain(event) {
      const press = event.currentTarget;
      clearTimeout(this.timer);
      if (!this.working) return;
      event.preventDefault();
      this.leaving = true;
      while (this.working) await new Promise((done) => setTimeout(done, 15));
      this.form.requestSubmit(press);
    },

    say(words, waiting) {
      this.state = words;
      this.waiting = waiting;
    },

    get waitingClass() {
      return this.waiting ? "is-waiting" : "";
    },
  };
}

// The load cell's figure, read again and again while the page is in sight.
export function cell() {
  return {
    words: "",

    init() {
      this.words = this.$el.textContent.trim();
      this.read();
    },

    async read() {
      try {
        const reading = await (await fetch(this.$el.dataset.url, { headers: { Accept: "application/json" } })).json();
        this.words = reading.said ?? reading.words;
      } catch {
        this.words = "The server does not answer.";
      }
      setTimeout(() => this.read(), 700);
    },
  };
}
