"use strict";
(function () {
  const form = document.getElementById("answer");
  const $ = (id) => document.getElementById(id);

  form.addEventListener("submit", (event) => event.preventDefault());

  // SHA-256 of a text in UTF-8 (FIPS 180-4), as the browser's own is not offered to local files
  // everywhere.
  function sha256(text) {
    const bytes = new TextEncoder().encode(text);
    const k = [], h = [];
    for (let n = 2; k.length < 64; n++) {
      let prime = true;
      for (let d = 2; d * d <= n; d++) if (n % d === 0) { prime = false; break; }
      if (!prime) continue;
      const part = (x) => ((x - Math.floor(x)) * 4294967296) | 0;
      if (h.length < 8) h.push(part(Math.sqrt(n)));
      k.push(part(Math.cbrt(n)));
    }
    const padded = new Uint8Array(((bytes.length + 72) >> 6) << 6);
    padded.set(bytes);
    padded[bytes.length] = 0x80;
    const view = new DataView(padded.buffer);
    view.setUint32(padded.length - 8, Math.floor(bytes.length / 536870912));
    view.setUint32(padded.length - 4, (bytes.length << 3) >>> 0);
    const w = new Int32Array(64);
    const turn = (x, by) => (x >>> by) | (x << (32 - by));
    for (let at = 0; at < padded.length; at += 64) {
      for (let i = 0; i < 16; i++) w[i] = view.getInt32(at + 4 * i);
      for (let i = 16; i < 64; i++) {
        const a = w[i - 15], b = w[i - 2];
        const s0 = turn(a, 7) ^ turn(a, 18) ^ (a >>> 3);
        const s1 = turn(b, 17) ^ turn(b, 19) ^ (b >>> 10);
        w[i] = (w[i - 16] + s0 + w[i - 7] + s1) | 0;
      }
      let [a, b, c, d, e, f, g, z] = h;
      for (let i = 0; i < 64; i++) {
        const s1 = turn(e, 6) ^ turn(e, 11) ^ turn(e, 25);
        const t1 = (z + s1 + ((e & f) ^ (~e & g)) + k[i] + w[i]) | 0;
        const s0 = turn(a, 2) ^ turn(a, 13) ^ turn(a, 22);
        const t2 = (s0 + ((a & b) ^ (a & c) ^ (b & c))) | 0;
        z = g; g = f; f = e; e = (d + t1) | 0; d = c; c = b; b = a; a = (t1 + t2) | 0;
      }
      [a, b, c, d, e, f, g, z].forEach((value, i) => { h[i] = (h[i] + value) | 0; });
    }
    return h.map((x) => (x >>> 0).toString(16).padStart(8, "0")).join("");
  }

  // The figure: a tap marks a place as felt, the next as painful, the next as neither.
  const STATES = ["", "felt", "hurts"];
  const SAYS = { "": "not marked", felt: "felt", hurts: "hurts" };

  function mark(place, state) {
    place.dataset.state = state;
    place.setAttribute("aria-label", place.dataset.name + ": " + SAYS[state]);
    $("marked").textContent = words();
    if (state === "hurts") form.elements.hurt.value = "yes";
  }

  function places(state) {
    return [...form.querySelectorAll(".place")].filter((p) => p.dataset.state === state);
  }

  function words() {
    const of = (state) => [...new Set(places(state).map((p) => p.dataset.name))].join(", ");
    const felt = of("felt"), hurts = of("hurts");
    return [felt && "Felt: " + felt + ".", hurts && "Hurts: " + hurts + "."]
      .filter(Boolean).join(" ") || "Nothing is marked yet.";
  }

  form.querySelectorAll(".place").forEach((place) => {
    const next = () =>
      mark(place, STATES[(STATES.indexOf(place.dataset.state) + 1) % STATES.length]);
    place.addEventListener("click", next);
    place.addEventListener("keydown", (event) => {
      if (event.key === "Enter" || event.key === " ") { event.preventDefault(); next(); }
    });
  });

  $("more").addEventListener("click", () => {
    const row = form.querySelector(".done").cloneNode(true);
    row.querySelectorAll("input").forEach((field) => { field.value = ""; });
    $("sets").append(row);
    row.querySelector("input").focus();
  });

  function number(text) {
    const value = Number(String(text).trim().replace(",", "."));
    return String(text).trim() === "" || !Number.isFinite(value) ? null : value;
  }

  // Months, days and hours with two digits, by the phone's clock.
  function now() {
    const at = new Date(), two = (n) => String(n).padStart(2, "0");
    return at.getFullYear() + "-" + two(at.getMonth() + 1) + "-" + two(at.getDate()) + "T" +
      two(at.getHours()) + ":" + two(at.getMinutes()) + ":" + two(at.getSeconds());
  }

  function answer() {
    const sets = [...form.querySelectorAll(".done")]
      .map((row) => {
        const [kg, reps] = row.querySelectorAll("input");
        return { kg: number(kg.value), reps: number(reps.value) };
      })
      .filter((set) => set.reps !== null);
    const hurt = [...new Set(places("hurts").map((p) => p.dataset.name))];
    if (form.elements.hurt.value === "yes" && !hurt.length) hurt.push("a place not named");
    const body = JSON.stringify({
      page: form.dataset.page,
      made: now(),
      hurt: hurt,
      felt: [...new Set(places("felt").map((p) => p.dataset.muscle))],
      left: number(form.elements.left.value),
      sets: sets,
      sleep: number(form.elements.sleep.value),
      words: form.elements.words.value.slice(0, 2000),
    });
    const sum = sha256(form.dataset.key + "\n" + body);
    return JSON.stringify({ format: "set-answer/1", body: body, sum: sum });
  }

  // What can't be right is said before anything is saved.
  function wrong() {
    if (!form.elements.hurt.value) return "Please say whether anything hurt.";
    for (const row of form.querySelectorAll(".done")) {
      const [kg, reps] = row.querySelectorAll("input");
      if (kg.value.trim() && !reps.value.trim()) return "Please add the reps to the weight.";
      if (reps.value.trim() && !(number(reps.value) > 0 && number(reps.value) <= 500 &&
        Number.isInteger(number(reps.value)))) return "Reps are whole numbers, such as 12.";
      if (kg.value.trim() && !(number(kg.value) >= 0 && number(kg.value) <= 1000))
        return "A weight is a number of kilograms, such as 22.5.";
    }
    const sleep = form.elements.sleep.value.trim();
    if (sleep && !(number(sleep) >= 0 && number(sleep) <= 24)) return "Hours of sleep are 0 to 24.";
    return "";
  }

  function ready(then) {
    const why = wrong();
    $("state").textContent = why;
    $("state").className = why ? "wrong" : "";
    if (!why) then(answer());
  }

  function file(text) {
    return new File([text], form.dataset.file, { type: "application/json" });
  }

  $("save").addEventListener("click", () => ready((text) => {
    const link = document.createElement("a");
    link.href = URL.createObjectURL(file(text));
    link.download = form.dataset.file;
    document.body.append(link);
    link.click();
    link.remove();
    $("state").textContent = "Saved as " + form.dataset.file + ". Send this file to your coach.";
  }));

  const shares = navigator.canShare && navigator.canShare({ files: [file("{}")] });
  $("share").hidden = !shares;
  $("share").addEventListener("click", () => ready((text) => {
    navigator.share({ files: [file(text)] }).catch(() => {});
  }));

  $("copy").addEventListener("click", () => ready((text) => {
    const bytes = new TextEncoder().encode(text);
    const code = "set-answer:" + btoa(String.fromCharCode(...bytes))
      .replace(/\+/g, "-").replace(/\//g, "_").replace(/=+$/, "");
    $("code").value = code;
    $("code").hidden = false;
    $("code").select();
    const copied = () => {
      $("state").textContent = "Copied. Paste it into a message to your coach.";
    };
    const byHand = () => {
      $("state").textContent = "Copy the text below into a message to your coach.";
    };
    if (navigator.clipboard) navigator.clipboard.writeText(code).then(copied, byHand);
    else byHand();
  }));

  $("marked").textContent = words();
})();
