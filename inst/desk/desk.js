"use strict";
(function () {
  let turn = 0;
  let focused = null;
  let shown = null;
  const send = (name, value) => {
    if (window.Shiny && Shiny.setInputValue) Shiny.setInputValue(name, Object.assign({ turn: ++turn }, value), { priority: "event" });
  };
  window.deskAct = (what, value) => send("act", { what, value, fields: {} });
  const valueOf = (field) => (field.type === "checkbox" ? field.checked : field.value);

  // One tick for all rows that are shown.
  document.addEventListener("change", (event) => {
    const all = event.target.closest("[data-all]");
    if (all) document.querySelectorAll("[data-field^='" + all.dataset.all + "']").forEach((box) => { box.checked = all.checked; });
  });

  document.addEventListener("change", (event) => {
    const field = event.target.closest("[data-set]");
    if (!field) return;
    focused = field.id;
    send("set", { key: field.dataset.set, value: valueOf(field) });
  });

  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-act]");
    if (!button) return;
    if (button.dataset.act === "show_brief") return showBrief();
    if (button.dataset.act === "name_case") {
      const field = document.querySelector("[data-field=case]");
      if (field) { field.value = button.dataset.value; document.querySelector("[data-field=reason]").focus(); }
      return;
    }
    const form = button.closest("[data-form]");
    const fields = {};
    if (form) form.querySelectorAll("[data-field]").forEach((field) => { fields[field.dataset.field] = valueOf(field); });
    if (button.dataset.act === "go") { focused = null; window.scrollTo(0, 0); }
    send("act", { what: button.dataset.act, value: button.dataset.value || "", fields });
  });

  // Cells over a figure: the arrows go to the nearest one that way.
  document.addEventListener("keydown", (event) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way || !event.target.matches("button.cell")) return;
    event.preventDefault();
    const middle = (cell) => { const box = cell.getBoundingClientRect(); return [box.left + box.width / 2, box.top + box.height / 2]; };
    const from = middle(event.target);
    let best = null, least = Infinity;
    event.target.parentElement.querySelectorAll("button.cell").forEach((cell) => {
      const to = middle(cell), across = to[0] - from[0], down = to[1] - from[1];
      const along = across * way[0] + down * way[1], aside = Math.abs(across * way[1]) + Math.abs(down * way[0]);
      if (along > 1 && along + 100 * aside < least && aside <= 1 + along * 0.5) { best = cell; least = along + 100 * aside; }
    });
    if (!best) return;
    event.target.tabIndex = -1;
    best.tabIndex = 0;
    best.focus();
  });

  document.addEventListener("keydown", (event) => {
    if (event.key !== "Enter" || !event.target.matches("[data-field]:not(textarea):not([type=checkbox])")) return;
    const button = event.target.closest("[data-form]").querySelector("[data-act]");
    if (button) button.click();
  });

  function showBrief() {
    const hidden = document.getElementById("brief").classList.toggle("hidden");
    document.getElementById("show-brief").setAttribute("aria-expanded", String(!hidden));
    if (hidden) document.getElementById("show-brief").focus();
  }

  // Variables are found as one types, without asking the server.
  let sought = "";
  function findVariables() {
    document.querySelectorAll(".variable-list li").forEach((item) => { item.hidden = !item.dataset.name.includes(sought); });
  }
  document.addEventListener("input", (event) => {
    if (!event.target.matches("[data-find]")) return;
    sought = event.target.value.trim().toLowerCase();
    findVariables();
  });

  // What was copied or could not be is said on the button itself.
  function answer(button, text) {
    const label = button.dataset.label || button.textContent;
    button.dataset.label = label;
    button.textContent = text;
    setTimeout(() => { button.textContent = label; }, 1500);
  }
  // What a button answers, in the desk's language.
  function told(what) {
    return document.getElementById("tools-in").dataset[what];
  }
  // As text and, where the browser takes it, with its italics or as a table.
  async function put(text, html) {
    try {
      const kinds = { "text/plain": new Blob([text], { type: "text/plain" }) };
      if (html) kinds["text/html"] = new Blob([html], { type: "text/html" });
      await navigator.clipboard.write([new ClipboardItem(kinds)]);
    } catch (error) {
      const area = document.createElement("textarea");
      area.value = text;
      document.body.appendChild(area);
      area.select();
      document.execCommand("copy");
      area.remove();
    }
  }
  async function copyText(button) {
    const sentence = button.closest(".lead");
    let html = null;
    if (sentence) {
      const bare = sentence.cloneNode(true);
      bare.querySelectorAll("button").forEach((one) => one.remove());
      html = bare.innerHTML;
    }
    await put(button.dataset.copy, html);
    button.focus();
    answer(button, told("copied"));
  }
  async function takeTable(button) {
    const table = button.closest(".taken").querySelector("table");
    const rows = [...table.rows].map((row) => [...row.cells].map((cell) => cell.textContent.trim()));
    if (button.dataset.table === "copy") {
      await put(rows.map((row) => row.join("\t")).join("\n"), table.outerHTML);
      return answer(button, told("copied"));
    }
    const quoted = (text) => "\"" + text.replace(/\u2212/g, "-").replace(/"/g, "\"\"") + "\"";
    const lines = rows.map((row) => row.map(quoted).join(",")).join("\r\n");
    const name = (table.caption ? table.caption.textContent : "table").replace(/[^\p{L}\p{N}]+/gu, "-").replace(/^-|-$/g, "");
    save(URL.createObjectURL(new Blob(["\ufeff" + lines], { type: "text/csv" })), name.toLowerCase() + ".csv");
    answer(button, told("saved"));
  }
  function save(address, name) {
    const link = document.createElement("a");
    link.href = address;
    link.download = name;
    link.click();
  }
  // A file that the desk has written.
  document.addEventListener("DOMContentLoaded", () => {
    if (window.Shiny) Shiny.addCustomMessageHandler("take", (file) => save(file.address, file.name));
  });
  // The figure at three times its size on the page.
  function asPicture(image) {
    const canvas = document.createElement("canvas");
    canvas.width = 3 * image.clientWidth;
    canvas.height = 3 * image.clientHeight;
    const context = canvas.getContext("2d");
    context.fillStyle = "white";
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    return new Promise((done) => canvas.toBlob(done, "image/png"));
  }
  async function takeFigure(button) {
    const image = document.querySelector("#figure img");
    if (!image) return;
    const name = button.dataset.name;
    try {
      if (button.dataset.figure === "svg") save(image.src, name + ".svg");
      if (button.dataset.figure === "png") save(URL.createObjectURL(await asPicture(image)), name + ".png");
      if (button.dataset.figure === "copy") {
        await navigator.clipboard.write([new ClipboardItem({ "image/png": asPicture(image) })]);
      }
      answer(button, told(button.dataset.figure === "copy" ? "copied" : "saved"));
    } catch (error) {
      answer(button, told("not"));
    }
  }
  document.addEventListener("click", (event) => {
    const copy = event.target.closest("[data-copy]");
    if (copy) copyText(copy);
    const figure = event.target.closest("[data-figure]");
    if (figure) takeFigure(figure);
    const table = event.target.closest("[data-table]");
    if (table) takeTable(table);
  });

  // What was in hand stays in hand when its part of the page is drawn anew.
  function afterDrawing() {
    for (const id of ["variables", "side"]) {
      const part = document.getElementById(id);
      if (part) document.body.classList.toggle("with-" + id, part.textContent.trim() !== "");
    }
    const find = document.querySelector("[data-find]");
    if (find && sought && find.value === "") { find.value = sought; findVariables(); }
    const state = document.getElementById("figure-state");
    const drawing = document.getElementById("drawing");
    if (state && drawing) drawing.classList.toggle("empty", state.dataset.hidden === "yes");
    const here = document.querySelector(".way button.on");
    if (here && here !== shown) { shown = here; here.scrollIntoView({ block: "nearest", inline: "center" }); }
    if (focused && document.activeElement === document.body) {
      const field = document.getElementById(focused);
      if (field) field.focus({ preventScroll: true });
    }
  }
  new MutationObserver(afterDrawing).observe(document.documentElement, { childList: true, subtree: true });
  document.addEventListener("shiny:disconnected", () => document.body.classList.add("ended"));
})();
