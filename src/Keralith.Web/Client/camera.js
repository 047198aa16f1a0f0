// Scanning with the camera, where the browser can read codes by itself; typing is always there.
export function startCamera() {
  const form = document.querySelector("form.scan");
  if (!form || !("BarcodeDetector" in window) || !navigator.mediaDevices?.getUserMedia) return;
  const press = Object.assign(document.createElement("button"), { type: "button", className: "press", textContent: "Camera" });
  press.dataset.camera = "";
  form.append(press);
  press.addEventListener("click", () => scan(form));
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
  let open = true;
  dialog.addEventListener("close", () => {
    open = false;
    stream?.getTracks().forEach((track) => track.stop());
    dialog.remove();
  });
  close.addEventListener("click", () => dialog.close());
  try {
    stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
    video.srcObject = stream;
    await video.play();
    const detector = new window.BarcodeDetector();
    while (open) {
      const [code] = await detector.detect(video);
      if (code?.rawValue) {
        form.elements.q.value = code.rawValue;
        dialog.close();
        form.requestSubmit();
        return;
      }
      await new Promise((done) => setTimeout(done, 150));
    }
  } catch {
    words.textContent = "The camera can't be used. Type the mark instead.";
  }
}
