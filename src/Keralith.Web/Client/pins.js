// A tap on the drawing says where: on the part in hand or beside the piece it pins, on another part it leads there.

const SVG = "http://www.w3.org/2000/svg";

export function watchPins(map, part, place) {
  const drawing = map?.querySelector("svg.drawing");
  if (!drawing) return;
  drawing.addEventListener("click", (event) => {
    const link = event.target.closest("a[data-part]");
    if (link && link.dataset.part !== part) return;
    event.preventDefault();
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(drawing.getScreenCTM().inverse());
    drawing.querySelector(".pin.is-new")?.remove();
    const pin = document.createElementNS(SVG, "g");
    pin.setAttribute("class", "pin is-new");
    pin.setAttribute("transform", `translate(${at.x.toFixed(1)} ${at.y.toFixed(1)})`);
    const head = document.createElementNS(SVG, "path");
    head.setAttribute("d", "M0 0l-3.4 -8.4a3.7 3.7 0 1 1 6.8 0Z");
    pin.append(head);
    drawing.append(pin);
    place(at.x.toFixed(1), at.y.toFixed(1));
  });
}
