// Scanning with the camera: by the browser's own reader where it brings one, else by one loaded when asked. Where a page may
// not have the camera's stream, a picture taken with it is read. Typing is always there.

const LONGEST_SIDE = 960;
const PAUSE_MS = 150;
const SCANNED = "scanned";

export function startCamera() {
  answerScan();
  const form = document.querySelector("form.scan");
  if (!form) return;
  form.addEventListener("submit", () => sessionStorage.setItem(SCANNED, "yes"));
  const press = Object.assign(document.createElement("button"), { type: "button", className: "press", textContent: "Camera" });
  press.dataset.camera = "";
  form.append(press);
  press.addEventListener("click", () => open(form));
  document.querySelector(".scan-thumb")?.addEventListener("click", (event) => {
    event.preventDefault();
    open(form);
  });
}

function open(form) {
  if (navigator.mediaDevices?.getUserMedia) scan(form);
  else photograph(form);
}

function found(form, code) {
  form.elements.q.value = code;
  form.requestSubmit();
}

// A picture from the camera, or a file, where no stream may be had.
function photograph(form) {
  const field = Object.assign(document.createElement("input"), { type: "file", accept: "image/*", hidden: true });
  field.setAttribute("capture", "environment");
  field.setAttribute("aria-label", "A picture of the code");
  form.append(field);
  field.addEventListener("change", async () => {
    const read = await reader();
    const picture = await createImageBitmap(field.files[0]);
    const code = await read(picture);
    field.remove();
    if (code) found(form, code);
    else {
      tone(false);
      form.elements.q.placeholder = "No code in that picture: nearer, or type the mark";
      form.elements.q.focus();
    }
  });
  field.click();
}

async function scan(form) {
  const dialog = document.createElement("dialog");
  dialog.className = "camera";
  dialog.setAttribute("aria-label", "Scan with the camera");
  const video = Object.assign(document.createElement("video"), { playsInline: true, muted: true });
  const words = Object.assign(document.createElement("p"), { textContent: "Hold the code before the camera." });
  words.setAttribute("role", "status");
  const close = Object.assign(document.createElement("button"), { type: "button", className: "press mt-2", textContent: "Close" });
  dialog.append(video, words, close);
  document.body.append(dialog);
  dialog.showModal();
  let stream;
  let isOpen = true;
  dialog.addEventListener("close", () => {
    isOpen = false;
    stream?.getTracks().forEach((track) => track.stop());
    dialog.remove();
  });
  close.addEventListener("click", () => dialog.close());
  try {
    stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
    video.srcObject = stream;
    await video.play();
    light(stream.getVideoTracks()[0], dialog);
    const read = await reader();
    while (isOpen) {
      const code = await read(video);
      if (code) {
        dialog.close();
        found(form, code);
        return;
      }
      await new Promise((done) => setTimeout(done, PAUSE_MS));
    }
  } catch {
    words.textContent = "The camera can't be used. Type the mark instead, or take a picture of the code.";
    const picture = Object.assign(document.createElement("button"), { type: "button", className: "press mt-2", textContent: "Take a picture" });
    picture.addEventListener("click", () => {
      dialog.close();
      photograph(form);
    });
    close.before(picture, " ");
  }
}

// The lamp, where the camera has one.
function light(track, dialog) {
  if (!track?.getCapabilities?.().torch) return;
  const press = Object.assign(document.createElement("button"), { type: "button", className: "press mt-2", textContent: "Light" });
  let on = false;
  press.setAttribute("aria-pressed", "false");
  press.addEventListener("click", async () => {
    on = !on;
    await track.applyConstraints({ advanced: [{ torch: on }] });
    press.setAttribute("aria-pressed", String(on));
  });
  dialog.querySelector("button").before(press, " ");
}

// What reads a code out of a picture or the stream: null where there is none.
async function reader() {
  if ("BarcodeDetector" in window) {
    const detector = new window.BarcodeDetector();
    return async (picture) => (await detector.detect(picture))[0]?.rawValue || null;
  }
  if (!window.readCode) {
    await new Promise((done, failed) => {
      const app = document.querySelector('script[src*="/assets/app.js"]').src;
      const script = Object.assign(document.createElement("script"), { src: app.replace("app.js", "reader.js"), onload: done, onerror: failed });
      document.head.append(script);
    });
  }
  const canvas = document.createElement("canvas");
  const brush = canvas.getContext("2d", { willReadFrequently: true });
  return async (picture) => {
    const [width, height] = [picture.videoWidth ?? picture.width, picture.videoHeight ?? picture.height];
    if (!width) return null;
    const scale = Math.min(1, LONGEST_SIDE / Math.max(width, height));
    [canvas.width, canvas.height] = [Math.round(width * scale), Math.round(height * scale)];
    brush.drawImage(picture, 0, 0, canvas.width, canvas.height);
    return window.readCode(brush.getImageData(0, 0, canvas.width, canvas.height));
  };
}

// What was scanned is answered without a look at the screen: one high tone for yes, two low ones and a shake for no.
function answerScan() {
  if (sessionStorage.getItem(SCANNED) !== "yes") return;
  sessionStorage.removeItem(SCANNED);
  const answer = document.querySelector('[aria-label="May it be used?"]');
  tone(Boolean(answer?.classList.contains("yes")));
}

function tone(yes) {
  // A browser lets a page sound and shake only once somebody has touched it.
  if (navigator.userActivation && !navigator.userActivation.hasBeenActive) return;
  try {
    if (!yes) navigator.vibrate?.([140, 70, 140]);
    const sound = new AudioContext();
    const beats = yes ? [[0, 0.12, 1320]] : [[0, 0.16, 330], [0.24, 0.16, 330]];
    for (const [from, length, pitch] of beats) {
      const note = sound.createOscillator();
      const volume = sound.createGain();
      volume.gain.value = 0.2;
      note.frequency.value = pitch;
      note.connect(volume).connect(sound.destination);
      note.start(sound.currentTime + from);
      note.stop(sound.currentTime + from + length);
    }
    setTimeout(() => sound.close(), 700);
  } catch {
    // A browser that lets no page sound by itself: the words on the page say it.
  }
}
