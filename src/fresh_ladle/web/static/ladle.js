// What needs no server: keys, nudging, the drawer, the search field. Everything else is HTML from the server.
(() => {
  "use strict";
  const $ = (selector, root = document) => root.querySelector(selector);
  const typing = (element) => element && element.matches("input:not([type=checkbox]), textarea, select, [contenteditable]");
  const keysOn = () => localStorage.getItem("single-keys") !== "off";

  document.addEventListener("alpine:init", () => {
    Alpine.data("bench", () => ({
      toggle() {
        const sheet = $("#keys");
        if (sheet.open) { sheet.close(); return; }
        $("#single-keys").checked = keysOn();
        sheet.showModal();
      },
    }));
  });

  // ---- drawer
  let openedBy = null;
  const closeDrawer = () => {
    const drawer = $("#drawer");
    if (!drawer || drawer.hidden) return false;
    drawer.hidden = true;
    drawer.replaceChildren();
    const again = openedBy && document.querySelector(openedBy);
    if (again) again.focus();
    return true;
  };
  const opener = (element) => {
    const line = element.closest("[data-line]");
    if (line) return `[data-line="${line.dataset.line}"] [data-swaps]`;
    const url = element.getAttribute("hx-get");
    return url ? `[hx-get="${url}"]` : null;
  };
  document.addEventListener("htmx:beforeRequest", (event) => {
    if (event.detail.target.id === "drawer" && !event.detail.elt.closest("#drawer")) openedBy = opener(event.detail.elt);
  });
  document.addEventListener("htmx:afterSwap", (event) => {
    if (event.detail.target.id === "drawer") {
      event.detail.target.hidden = false;
      const close = $("[data-close]", event.detail.target);
      if (close) close.focus({ preventScroll: true });
    }
    if (event.detail.target.id === "bench" || event.detail.target.closest("#bench")) {
      $("#notice").replaceChildren();
      if (event.detail.requestConfig.elt.closest("#drawer")) closeDrawer();
    }
  });
  document.addEventListener("htmx:sendError", () => {
    const note = document.createElement("div");
    note.className = "notice";
    note.textContent = "The workbench does not answer. Nothing was lost up to your last edit: start it again and reload.";
    $("#notice").replaceChildren(note);
  });

  // ---- clicks
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-close]")) closeDrawer();
    if (event.target.closest("[data-print]")) window.print();
    const focus = event.target.closest("[data-focus]");
    if (focus) { const field = document.getElementById(focus.dataset.focus); field.focus(); field.select(); }
  });
  document.addEventListener("change", (event) => {
    if (event.target.id === "single-keys") localStorage.setItem("single-keys", event.target.checked ? "on" : "off");
  });

  // ---- keys
  let waiting = 0;
  document.addEventListener("keydown", (event) => {
    const target = event.target;
    if (event.key === "Escape") { if (closeDrawer()) event.preventDefault(); return; }
    if (target.matches && target.matches(".amount") && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
      event.preventDefault();
      if (waiting) return;
      waiting = 1;
      const revision = $("#bench").dataset.revision;
      htmx.ajax("POST", target.dataset.nudge, { source: target.form || target, target: "#bench", swap: "outerHTML", values: { steps: event.key === "ArrowUp" ? 1 : -1, revision } }).finally(() => { waiting = 0; });
      return;
    }
    if (target.matches && target.matches(".amount") && event.key === "Enter") { event.preventDefault(); target.dispatchEvent(new Event("change", { bubbles: true })); return; }
    if (event.ctrlKey || event.metaKey || event.altKey || typing(target) || $("dialog[open]") || !keysOn()) return;
    if (event.key === "/") { event.preventDefault(); $("#finder").focus(); return; }
    if (event.key === "?") { event.preventDefault(); $(".band-button").click(); return; }
    if (event.key === "n" && $("#new-line")) { event.preventDefault(); $("#new-line").focus(); return; }
    if (event.key === "s") { const line = target.closest && target.closest("[data-line]"); if (line) { event.preventDefault(); $("[data-swaps]", line).click(); } return; }
    const keyed = document.querySelector(`[data-key="${CSS.escape(event.key)}"]:not(:disabled)`);
    if (keyed) { event.preventDefault(); keyed.click(); }
  });

  // ---- find a food or recipe
  const finder = $("#finder"), list = $("#found");
  let chosen = -1, timer = 0;
  const show = (items) => {
    chosen = -1;
    list.replaceChildren(...items.map((item, index) => {
      const row = document.createElement("li");
      row.setAttribute("role", "option");
      row.id = `found-${index}`;
      row.dataset.url = item.url;
      const name = document.createElement("span"); name.textContent = item.name;
      const kind = document.createElement("small"); kind.textContent = item.kind;
      row.append(name, kind);
      row.addEventListener("mousedown", () => { location.href = item.url; });
      return row;
    }));
    list.hidden = items.length === 0;
    finder.setAttribute("aria-expanded", String(items.length > 0));
  };
  finder.addEventListener("input", () => {
    clearTimeout(timer);
    timer = setTimeout(async () => {
      if (!finder.value.trim()) { show([]); return; }
      const answer = await fetch(`/find?q=${encodeURIComponent(finder.value)}`);
      if (answer.ok) show(await answer.json());
    }, 120);
  });
  finder.addEventListener("keydown", (event) => {
    const rows = [...list.children];
    if (event.key === "Escape") { show([]); finder.blur(); return; }
    if (event.key === "Enter" && rows.length) { event.preventDefault(); location.href = rows[Math.max(0, chosen)].dataset.url; return; }
    if ((event.key === "ArrowDown" || event.key === "ArrowUp") && rows.length) {
      event.preventDefault();
      chosen = (chosen + (event.key === "ArrowDown" ? 1 : -1) + rows.length) % rows.length;
      rows.forEach((row, index) => row.setAttribute("aria-selected", String(index === chosen)));
      finder.setAttribute("aria-activedescendant", rows[chosen].id);
    }
  });
  finder.addEventListener("blur", () => setTimeout(() => show([]), 150));
})();
