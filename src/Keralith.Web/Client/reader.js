// Reads codes out of pictures where the browser brings no reader of its own: loaded when somebody asks for the camera.
import jsQR from "jsqr";

window.readCode = (picture) => jsQR(picture.data, picture.width, picture.height, { inversionAttempts: "attemptBoth" })?.data || null;
