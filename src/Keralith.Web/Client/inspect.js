// Keeps every answer the moment it is given: on this device first, then in the draft on the server.
// What the answer comes to is decided on the server; this only shows it.

import { watchPins } from "./pins.js";

const RETRY_MS = 2500;
const TYPING_MS = 350;

export function inspectPart() {
  return {
    state: "Every answer is kept as you give it.",
    said: 0,
    scripted: true,
    large: false,
    waiting: false,
    timers: new Map(),
    retry: null,

    init() {
      this.form = this.$refs.form;
      this.key = `draft:${this.form.dataset.draft}`;
      this.restore();
      this.form.addEventListener("input", (event) => this.typed(event));
      this.form.addEventListener("change", (event) => this.changed(event));
      document.addEventListener("keydown", (event) => this.pressed(event));
      this.form.addEventListener("focusin", (event) => {
        if (event.target.matches('[data-field="value"]')) this.figure = event.target;
      });
      watchPins(this.$root.querySelector(".map"), this.form.dataset.part, (x, y) => this.pin(x, y));
      this.mark(this.questions()[0]);
      document.querySelector('[aria-current="step"]')?.scrollIntoView({ block: "nearest", inline: "center" });
      if (Object.keys(this.pending()).length) this.flush();
    },

    destroy() {
      clearTimeout(this.retry);
    },

    questions() {
      return [...this.form.querySelectorAll("[data-question]")];
    },

    pending() {
      try {
        return JSON.parse(localStorage.getItem(this.key) ?? "{}");
      } catch {
        return {};
      }
    },

    keep(pending) {
      if (Object.keys(pending).length) localStorage.setItem(this.key, JSON.stringify(pending));
      else localStorage.removeItem(this.key);
    },

    // Answers given on this device that never reached the server go back into the form.
    restore() {
      const pending = this.pending();
      for (const row of this.questions()) {
        const answer = pending[`${this.form.dataset.part} ${row.dataset.question}`];
        if (!answer) continue;
        for (const field of row.querySelectorAll("[data-field]")) {
          const value = answer[field.dataset.field] ?? "";
          if (field.type === "radio") field.checked = field.value === value;
          else field.value = value;
        }
      }
    },

    typed(event) {
      const row = event.target.closest("[data-question]");
      if (!row || event.target.type === "radio") return;
      this.note(row);
      clearTimeout(this.timers.get(row));
      this.timers.set(row, setTimeout(() => this.flush(), TYPING_MS));
    },

    changed(event) {
      const row = event.target.closest("[data-question]");
      if (!row) return;
      if (event.target.matches("[data-photo]")) {
        this.photograph(row, event.target);
        return;
      }
      this.mark(row);
      this.note(row);
      clearTimeout(this.timers.get(row));
      this.flush();
    },

    // On this device first: a lost network, a closed browser or a lapsed sign-in loses nothing.
    note(row) {
      const answer = { part: this.form.dataset.part, criterion: row.dataset.question };
      for (const field of row.querySelectorAll("[data-field]")) {
        if (field.type === "radio" && !field.checked) continue;
        answer[field.dataset.field] = field.value;
      }
      const places = [...row.querySelectorAll("[data-place]")].filter((field) => field.value.trim());
      if (places.length) {
        answer.value = places.map((field) => `${field.dataset.place}: ${field.value.trim()}`).join("; ");
        answer.shortest = "";
      }
      const pending = this.pending();
      pending[`${answer.part} ${answer.criterion}`] = answer;
      this.keep(pending);
    },

    async flush() {
      if (this.sending) {
        this.again = true;
        return;
      }
      this.sending = true;
      clearTimeout(this.retry);
      const pending = this.pending();
      const sent = Object.entries(pending);
      const said = this.said;
      try {
        for (const [key, answer] of sent) {
          const response = await fetch(this.form.dataset.answerUrl, {
            method: "POST",
            headers: { "Content-Type": "application/json", Accept: "application/json", "X-Form-Token": this.form.dataset.token },
            body: JSON.stringify({ ...answer, seen: this.rowOf(answer)?.dataset.seen ?? null }),
          });
          if (response.status === 401) {
            this.say("Your sign-in has lapsed. What you entered is kept on this device: sign in again and it goes on from here.", true);
            this.$refs.signIn.hidden = false;
            return;
          }
          if (response.status >= 500 || response.status === 429) throw new Error(String(response.status));
          const result = await response.json();
          this.show(answer, result);
          const now = this.pending();
          if (JSON.stringify(now[key]) === JSON.stringify(answer)) {
            delete now[key];
            this.keep(now);
          }
        }
        // What was said meanwhile, as of a picture that is none, stays to be read.
        if (this.said === said) this.say(sent.length ? "Kept in the draft." : this.state, false);
      } catch {
        this.say("Not sent yet: kept on this device, sent as soon as the server answers.", true);
        this.retry = setTimeout(() => this.flush(), RETRY_MS);
      } finally {
        this.sending = false;
        if (this.again) {
          this.again = false;
          this.flush();
        }
      }
    },

    rowOf(answer) {
      return answer.part === this.form.dataset.part ? this.form.querySelector(`[data-question="${answer.criterion}"]`) : null;
    },

    show(answer, result) {
      const row = this.rowOf(answer);
      if (!row) return;
      if (result.kept) row.dataset.seen = result.seen;
      row.querySelector("[data-result]").innerHTML = result.html;
      for (const mark of row.querySelectorAll("[data-mark]")) mark.innerHTML = mark.parentElement.querySelector("input").checked ? (result.mark ?? "") : "";
      row.classList.toggle("is-answered", result.kept);
      if (result.progress) this.$refs.progress.textContent = result.progress;
    },

    say(words, waiting) {
      this.said += 1;
      this.state = words;
      this.waiting = waiting;
    },

    get waitingClass() {
      return this.waiting ? "is-waiting" : "";
    },

    // On to the next part once all is kept; while the server is away the page stays and says so.
    async leave() {
      const next = this.$refs.next.dataset.next;
      await this.settle();
      const here = Object.values(this.pending());
      if (here.length === 0 && !this.form.querySelector("[data-result] .fault")) location.assign(next);
      else if (!this.waiting) this.form.querySelector("[data-result] .fault")?.closest("[data-question]").querySelector("input")?.focus();
    },

    // The verdict is read once what was just typed is in it; where the server is away it says so itself.
    async toVerdict(event) {
      const { href } = event.target.closest("a");
      await this.settle();
      location.assign(href);
    },

    // Everything given so far is sent, or known not to be.
    async settle() {
      for (const timer of this.timers.values()) clearTimeout(timer);
      await this.flush();
      while (this.sending) await new Promise((done) => setTimeout(done, 30));
    },

    // One press: no fault found here, for all that is looked for on this part and not answered yet.
    clean() {
      for (const row of this.questions()) {
        const no = row.querySelector('input[type="radio"][value="no"]');
        if (!no || row.querySelector('input[type="radio"]:checked')) continue;
        no.checked = true;
        this.note(row);
      }
      this.flush();
      this.fold();
      (this.form.querySelector('.figure input[type="text"]') ?? this.$refs.next).focus();
    },

    // Where nothing was found the lines fold to one that says so.
    fold() {
      const rows = [...this.form.querySelectorAll(".look")];
      if (rows.length && rows.every((row) => row.querySelector('input[value="no"]').checked && !row.querySelector("textarea").value)) {
        this.$refs.looks.open = false;
        window.scrollTo({ top: 0 });
      }
    },

    // The question in hand is pinned where the drawing was tapped.
    pin(x, y) {
      if (!this.here) return;
      this.here.querySelector('[data-field="pinX"]').value = x;
      this.here.querySelector('[data-field="pinY"]').value = y;
      this.note(this.here);
      this.flush();
      this.$refs.pinHint.textContent = `${this.here.querySelector("legend").textContent.trim()}: pinned.`;
    },

    // One reading more: all are judged, the worst counts.
    another(event) {
      const row = event.target.closest("[data-question]");
      const field = row.querySelector('[data-field="value"]');
      const readings = field.value.replace(/[;\s]+$/, "");
      if (readings) field.value = `${readings}; `;
      this.mark(row);
      field.focus();
      field.setSelectionRange(field.value.length, field.value.length);
    },

    // The camera, or a file, for the question beside.
    camera(event) {
      const row = event.target.closest("[data-question]");
      this.mark(row);
      row.querySelector("[data-photo]").click();
    },

    // A picture goes to the server at once; one that can't be sent stays chosen and is said.
    async photograph(row, field) {
      if (!field.files[0]) return;
      this.mark(row);
      const body = new FormData();
      body.append(field.name, field.files[0]);
      const url = `${this.form.dataset.answerUrl.replace("handler=Answer", "handler=Photo")}&of=${encodeURIComponent(row.dataset.question)}&part=${encodeURIComponent(this.form.dataset.part)}`;
      this.say("Sending the picture.", true);
      try {
        const response = await fetch(url, { method: "POST", headers: { Accept: "application/json", "X-Form-Token": this.form.dataset.token }, body });
        if (!response.ok) throw new Error(String(response.status));
        const result = await response.json();
        if (result.html) row.querySelector("[data-photos]").innerHTML = result.html;
        if (!result.fault) field.value = "";
        this.say(result.fault ?? "The picture is kept.", Boolean(result.fault));
      } catch {
        this.say("The picture was not sent. Choose it again when the server answers; your answers are kept.", true);
      }
    },

    // The practice caliper types as a real one's keyboard interface does: figures one by one, then Enter.
    measure() {
      const field = this.figure ?? this.form.querySelector('[data-specimens]:not([data-specimens=""])');
      const reading = field?.dataset.specimens?.split("|")[Number(this.$refs.specimen.value)];
      if (!reading) {
        this.say("Nothing here is measured with a caliper.", false);
        return;
      }
      field.focus();
      if (!field.value.trim().endsWith(";")) field.value = "";
      for (const figure of reading) {
        field.value += figure;
        field.dispatchEvent(new Event("input", { bubbles: true }));
      }
      field.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
    },

    mark(row) {
      for (const other of this.questions()) other.classList.toggle("is-here", other === row);
      this.here = row;
    },

    pressed(event) {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const target = event.target;
      const typing = target.tagName === "TEXTAREA" || (target.tagName === "INPUT" && !["radio", "checkbox"].includes(target.type));
      if (event.key === "Enter" && this.form.contains(target) && target.tagName !== "TEXTAREA" && target.tagName !== "BUTTON" && target.tagName !== "A") {
        event.preventDefault();
        this.forward();
        return;
      }
      if (event.key === "+" && target.matches('[data-field="value"]')) {
        event.preventDefault();
        this.another(event);
        return;
      }
      if (typing) return;
      if (/^[1-4]$/.test(event.key) && this.here) {
        const choice = this.here.querySelectorAll('input[type="radio"]')[Number(event.key) - 1];
        if (choice) {
          event.preventDefault();
          choice.checked = true;
          this.note(this.here);
          this.flush();
          this.step(1);
        }
      } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
        event.preventDefault();
        this.step(event.key === "ArrowDown" ? 1 : -1);
      } else if (event.key.toLowerCase() === "n" && this.here) {
        event.preventDefault();
        const note = this.here.querySelector(".more details");
        if (note) {
          note.open = true;
          note.querySelector("textarea").focus();
        }
      } else if (event.key.toLowerCase() === "p" && this.here) {
        event.preventDefault();
        this.here.querySelector("[data-photo]")?.click();
      } else if (event.key === "0") {
        event.preventDefault();
        this.clean();
      } else if (event.key === "Enter" && target === document.body) {
        this.$refs.next.click();
      }
    },

    step(by) {
      const rows = this.questions();
      const row = rows[Math.min(rows.length - 1, Math.max(0, rows.indexOf(this.here) + by))];
      if (!row) return;
      this.mark(row);
      row.scrollIntoView({ block: "nearest" });
      const field = row.querySelector('input[type="radio"]:checked') ?? row.querySelector('input[type="text"]') ?? row.querySelector("input");
      field?.focus({ preventScroll: true });
    },

    // Enter in a figure goes to the next open figure of the part, then to the next part.
    forward() {
      const rows = this.questions();
      const at = rows.indexOf(document.activeElement.closest("[data-question]"));
      for (const row of rows.slice(at + 1)) {
        const figure = [...row.querySelectorAll('input[type="text"]')].find((f) => !f.value);
        if (figure) {
          this.mark(row);
          figure.focus();
          return;
        }
      }
      this.$refs.next.focus();
      this.$refs.next.click();
    },
  };
}
