// Brings files in by drag and drop or by the field: each is sent in a way that goes on where it broke off.
import { notice, say } from "./site.js";

const form = document.querySelector("form.bring-in");
const field = form?.querySelector("input[type=file]");
const box = form?.querySelector(".sending");
const retries = [0, 500, 1000, 3000, 5000, 10000, 20000];

form?.addEventListener("submit", (event) => {
  event.preventDefault();
  send([...field.files]);
});

for (const kind of ["dragover", "drop"]) {
  form?.addEventListener(kind, (event) => {
    event.preventDefault();
    form.classList.toggle("drop-here", kind === "dragover");
    if (kind === "drop" && event.dataTransfer.files.length > 0) send([...event.dataTransfer.files]);
  });
}
form?.addEventListener("dragleave", () => form.classList.remove("drop-here"));

/** Sends files one after the other, then asks what goes where. */
async function send(files) {
  const bytes = files.reduce((sum, file) => sum + file.size, 0);
  if (files.some((file) => file.size > Number(form.dataset.most))) {
    notice(`One of these files is larger than ${size(form.dataset.most)}, which is the most that is taken.`);
    return;
  }
  if (bytes > Number(form.dataset.left)) {
    notice(`These files are ${size(bytes)}, and ${size(form.dataset.left)} can be taken in just now: what waits to be cut is counted, and room for what is cut.`);
    return;
  }
  const button = form.querySelector("button:not(.sending button)");
  button.disabled = true;
  box.hidden = false;
  const started = performance.now();
  let before = 0;
  const keys = [];
  try {
    for (const file of files) {
      keys.push(await sendOne(file, (sent) => show((before + sent) / bytes, before + sent, bytes, started)));
      before += file.size;
    }
    show(1, bytes, bytes, started);
    location.assign(await gather(keys));
  } catch (trouble) {
    box.hidden = true;
    button.disabled = false;
    notice(trouble.sentence ?? "The files did not all arrive. What has come is kept for a day: send them again, and they go on where they were.");
  }
}

/** Asks what goes where, once all files have come; they stay here until that was answered. */
async function gather(keys) {
  const body = new FormData();
  for (const key of keys) body.append("key", key);
  body.append("__RequestVerificationToken", form.dataset.token);
  let answer = null;
  try {
    answer = await fetch(form.dataset.gather, { method: "POST", body });
  } catch {
    // The program is gone, or the way to it.
  }
  const said = answer ? sentenceIn(await answer.text()) : "";
  if (answer?.ok) return said;
  throw { sentence: `All files have come, but the program could not go on with them. ${said} Choose the same files and bring them in once more: nothing is sent twice.`.replace("  ", " ") };
}

/** What a page or a plain answer says. */
const sentenceIn = (text) => (text.includes("<") ? new DOMParser().parseFromString(text, "text/html").getElementById("sentence")?.textContent ?? "" : text);

const size = (bytes) => (Number(bytes) >= 1e9 ? `${(Number(bytes) / 1e9).toFixed(1)} GB` : `${(Number(bytes) / 1e6).toFixed(1)} MB`);

function show(share, sent, bytes, started) {
  const left = sent > 0 ? Math.ceil(((performance.now() - started) / sent) * (bytes - sent) / 1000) : null;
  box.querySelector("progress").value = share;
  box.querySelector("span").textContent = `${Math.round(share * 100)} %${left ? `, ${left} s left` : ""}`;
}

/** Sends one file; the key of its upload once it is whole. */
function sendOne(file, progress) {
  return new Promise((resolve, reject) => {
    const upload = new window.tus.Upload(file, {
      endpoint: form.dataset.uploads,
      headers: { RequestVerificationToken: form.dataset.token },
      metadata: { filename: file.name },
      retryDelays: retries,
      onProgress: progress,
      onError: (error) => {
        const sentence = error.originalResponse?.getStatus() >= 400 ? sentenceIn(error.originalResponse.getBody()) : "";
        reject(sentence ? { sentence } : error);
      },
      onSuccess: () => resolve(upload.url.split("/").pop()),
    });
    box.querySelector("button").onclick = async () => {
      await upload.abort();
      say("Sending has stopped.");
      reject({ sentence: "Stopped. What has come is kept for a day: send the files again, and they go on where they were." });
    };
    upload.findPreviousUploads().then((earlier) => {
      if (earlier.length > 0) upload.resumeFromPreviousUpload(earlier[0]);
      upload.start();
    });
  });
}
