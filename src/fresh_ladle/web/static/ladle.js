// What needs no server: keys, nudging, dragging, the drawer, the search field. Everything else is HTML from the server.
(() => {
  "use strict";
  const $ = (selector, root = document) => root.querySelector(selector);
  const FIELDS = "input:not([type=checkbox]):not([type=radio]), textarea, select, [contenteditable]";
  const typing = (element) => element && element.matches(FIELDS);
  const keysOn = () => localStorage.getItem("single-keys") !== "off";

  document.addEventListener("alpine:init", () => {
    Alpine.data("keys", () => ({
      toggle() {
        const sheet = $("#keys");
        if (sheet.open) {
          sheet.close();
          return;
        }
        $("#single-keys").checked = keysOn();
        sheet.showModal();
      },
    }));
  });

  // ---- drawer and small trays
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
  const closeTray = (except) => {
    let closed = false;
    document.querySelectorAll("details.pop[open]").forEach((tray) => {
      if (tray.contains(except)) return;
      tray.open = false;
      closed = true;
      if (!except) $("summary", tray).focus();
    });
    return closed;
  };
  const press = (keyed) => {
    keyed.click();
    const tray = keyed.closest("details.pop[open]");
    if (tray) $("input:not([type=hidden]), select:not(:disabled), textarea, a", tray)?.focus();
  };
  // What comes next is a link to where it is done: a tray is opened there, a question gets the focus.
  const PRESSED = {
    "#targets": "[data-key=t]",
    "#keep": "[data-key=k]",
    "#versions": "[data-key=v]"
  };
  const arrive = (hash) => {
    if (PRESSED[hash]) press($(PRESSED[hash]));
    if (hash === "#questions") $("#questions .answers button")?.focus();
  };
  document.addEventListener("DOMContentLoaded", () => {
    if ($("#counter")) arrive(location.hash);
  });
  const opener = (element) => {
    if (element.id) return `#${CSS.escape(element.id)}`;
    const url = element.getAttribute("hx-get") || element.getAttribute("hx-post");
    return url ? `[hx-get="${url}"], [hx-post="${url}"]` : null;
  };
  document.addEventListener("htmx:beforeRequest", (event) => {
    const target = event.detail.target.id;
    if (target === "drawer" && !event.detail.elt.closest("#drawer")) openedBy = opener(event.detail.elt);
    const saved = $("[data-saved]");
    const edits = event.detail.requestConfig.verb !== "get";
    if (saved && target === "counter" && edits) saved.textContent = "saving …";
  });
  document.addEventListener("htmx:afterSwap", (event) => {
    const target = event.detail.target;
    if (target.id === "drawer") {
      target.hidden = false;
      const close = $("[data-close]", target);
      if (close) close.focus({
        preventScroll: true
      });
    }
    if (target.id === "counter" || target.closest("#counter")) {
      $("#notice").replaceChildren();
      const stays = event.detail.requestConfig.elt.closest("[data-stays]");
      if (stays && target.id === "counter") {
        htmx.ajax("GET", stays.dataset.stays, {
          target: "#drawer"
        });
      } else if (!stays && event.detail.requestConfig.elt.closest("#drawer")) {
        closeDrawer();
      }
      const merging = $(".merging[data-late]");
      if (merging) {
        merging.scrollIntoView({
          block: "nearest"
        });
        $("button, input:checked", merging).focus();
      }
    }
  });
  document.addEventListener("htmx:afterSettle", () => {
    sortLines();
  });
  const notSaved = () => {
    const saved = $("[data-saved]");
    if (saved && saved.textContent === "saving …") saved.textContent = "the last edit is not saved";
  };
  document.addEventListener("htmx:sendError", () => {
    const note = document.createElement("div");
    note.className = "notice";
    note.textContent = "The workbench does not answer. Everything up to your last edit is saved: " +
      "start it again and reload. What you typed since is still in its field.";
    $("#notice").replaceChildren(note);
    notSaved();
  });
  document.addEventListener("htmx:responseError", notSaved);

  // ---- clicks
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-close]")) closeDrawer();
    if (event.target.closest("[data-print]")) window.print();
    closeTray(event.target);
    const next = event.target.closest("a.to-do");
    if (next && next.hash && next.pathname === location.pathname) {
      event.preventDefault();
      arrive(next.hash);
    }
    const go = event.target.closest("[data-go]");
    if (go) location.href = go.dataset.go;
    const focus = event.target.closest("[data-focus]");
    if (focus) {
      const field = document.getElementById(focus.dataset.focus);
      field.focus();
      field.select();
    }
  });
  // A field that was taken with Enter changes once more when it is left, and a morphed one keeps what it held on entry:
  // what the server has shown or was sent already is no edit.
  document.addEventListener("change", (event) => {
    const field = event.target;
    if (!field.matches(".amount, .panel-part input, .leaving input")) return;
    if (field.value === field.getAttribute("value") || field.value === field.dataset.sent) {
      event.stopImmediatePropagation();
      return;
    }
    field.dataset.sent = field.value;
  }, true);
  document.addEventListener("change", (event) => {
    if (event.target.id === "single-keys") localStorage.setItem("single-keys", event.target.checked ? "on" : "off");
    const auto = event.target.closest("form[data-auto]");
    if (auto && event.target.matches("select")) auto.requestSubmit();
  });
  document.addEventListener("submit", (event) => {
    const question = event.target.dataset.ask;
    if (question && !window.confirm(question)) event.preventDefault();
  });

  // ---- a ratio: the slider moves the upright in the drawing and shows what stands at its step
  document.addEventListener("input", (event) => {
    const slider = event.target.closest("[data-walk]");
    if (!slider) return;
    const here = $(".walk-here");
    const x = slider.dataset.xs.split(" ")[slider.value];
    here.setAttribute("x1", x);
    here.setAttribute("x2", x);
    document.querySelectorAll("[data-point]").forEach((point) => {
      point.hidden = point.dataset.point !== slider.value;
      if (!point.hidden) slider.setAttribute("aria-valuetext", point.dataset.spoken);
    });
  });

  // ---- lines: nudged by a kitchen step, moved by keys or dragged
  let waiting = false;
  const post = (url, source, values) => {
    if (waiting) return;
    waiting = true;
    const revision = $("#counter").dataset.revision;
    htmx.ajax("POST", url, {
      source,
      target: "#counter",
      swap: "morph",
      values: {
        ...values,
        revision
      }
    }).finally(() => {
      waiting = false;
    });
  };
  const lineId = (line) => line.dataset.line || line.dataset.panel;
  const lineUrl = (line, what) => `/recipes/${$("#counter").dataset.recipe}/lines/${lineId(line)}/${what}`;
  const sortLines = () => {
    if (!window.Sortable || document.body.hasAttribute("data-reads")) return;
    document.querySelectorAll(".lines .group").forEach((group) => {
      if (Sortable.get(group)) return;
      Sortable.create(group, {
        group: "lines",
        handle: "[data-grip]",
        draggable: ".line:not(.inside)",
        animation: 0,
        forceFallback: true,
        delay: 60,
        delayOnTouchOnly: true,
        onEnd: (event) => {
          if (event.from === event.to && event.oldIndex === event.newIndex) return;
          let next = event.item.nextElementSibling;
          while (next && (!next.dataset.line || next.classList.contains("inside"))) next = next.nextElementSibling;
          post(lineUrl(event.item, "place"), event.item, {
            component: event.to.dataset.group,
            before: next ? next.dataset.line : ""
          });
        },
      });
    });
  };
  document.addEventListener("DOMContentLoaded", sortLines);

  // ---- a page that was read in: marks by their letters, lines parted and joined, the paste beside what it became
  let caret = null;
  const askOfPage = (values, then) => {
    caret = then;
    const form = $("#reading");
    htmx.ajax("POST", "/read-in/again", {
      source: form,
      target: "#reading",
      swap: "morph",
      values
    });
  };
  const placeOf = (field) => Number(field.id.replace("line-", ""));
  const lineAfter = (place, by) => {
    const fields = [...document.querySelectorAll("#reading [name=line]")];
    return fields[fields.findIndex((field) => placeOf(field) === place) + by];
  };
  const onPage = (event) => {
    const target = event.target;
    const mark = target.closest(".kind-mark");
    if (mark && !event.ctrlKey && !event.metaKey && !event.altKey) {
      const marks = [...mark.parentElement.children];
      const step = {
        ArrowRight: 1,
        ArrowDown: 1,
        ArrowLeft: -1,
        ArrowUp: -1
      } [event.key];
      const next = step ? marks[(marks.indexOf(mark) + step + marks.length) % marks.length] :
        marks.find((other) => other.dataset.mark === event.key.toLowerCase());
      if (!next) return false;
      next.focus();
      if (!step) next.click();
      return true;
    }
    if (target.name !== "line") return false;
    const place = placeOf(target);
    const at = target.selectionStart;
    if (event.key === "Enter" && !event.shiftKey) {
      if (at > 0 && target.value.slice(at).trim() && target.value.slice(0, at).trim()) {
        askOfPage({
          split: `${place}:${at}`
        }, {
          id: `line-${place + 1}`,
          at: 0
        });
      } else {
        lineAfter(place, 1)?.focus();
      }
      return true;
    }
    if (event.key === "Backspace" && place > 0 && at === 0 && target.selectionEnd === 0 && target.value) {
      const before = $(`#line-${place - 1}`);
      askOfPage({
        join: place
      }, {
        id: `line-${place - 1}`,
        at: before ? before.value.length + 1 : 0
      });
      return true;
    }
    return false;
  };
  document.addEventListener("htmx:beforeSwap", (event) => {
    const field = document.activeElement;
    if (event.detail.target.id !== "reading" || caret || !typing(field) || field.matches("select")) return;
    // What was typed since the page was asked for is not lost.
    if (field.value !== field.defaultValue) caret = {
      id: field.id,
      at: field.selectionStart,
      value: field.value
    };
  });
  document.addEventListener("htmx:afterSwap", (event) => {
    if (event.detail.target.id !== "reading" || !caret) return;
    const field = document.getElementById(caret.id);
    const shown = field?.closest("details");
    if (shown) shown.open = true;
    if (field && caret.value !== undefined) field.value = caret.value;
    field?.focus();
    field?.setSelectionRange?.(caret.at, caret.at);
    caret = null;
  });
  const pointAt = (event) => {
    if (!$(".paste-rows")) return;
    const row = event.target.closest?.("#reading [data-rows]");
    document.querySelectorAll(".paste-rows .here").forEach((one) => one.classList.remove("here"));
    if (!row) return;
    const [first, last] = row.dataset.rows.split("-").map(Number);
    for (let n = first; n <= last; n += 1) $(`#paste-${n}`)?.classList.add("here");
    if (event.type === "focusin") {
      const list = $(".paste-rows");
      const here = $(`#paste-${first}`);
      if (list && here) list.scrollTop = here.offsetTop - list.offsetTop - list.clientHeight / 3;
    }
  };
  document.addEventListener("focusin", pointAt);
  document.addEventListener("mouseover", pointAt);
  document.addEventListener("click", (event) => {
    const link = event.target.closest("[data-reveals]");
    if (!link) return;
    event.preventDefault();
    const field = document.getElementById(link.dataset.reveals);
    const shown = field.closest("details");
    if (shown) shown.open = true;
    field.focus();
  });

  // ---- the work of a method: a line lights up with its steps, a step with its lines
  const light = (pressed) => {
    const box = pressed.closest("#drawer, #reading");
    const step = pressed.dataset.wayStep;
    const line = pressed.dataset.wayLine;
    const chosen = step === undefined ? `line ${line}` : `step ${step}`;
    const again = box.dataset.lit === chosen;
    box.querySelectorAll("[data-way-line], [data-way-step]").forEach((one) => {
      const own = step === undefined ?
        one.dataset.wayLine === line || (one.dataset.lines || "").split(" ").includes(line) :
        one.dataset.wayStep === step || (one.dataset.ways || "").split(" ").includes(step);
      one.classList.toggle("lit", own && !again);
      if (one.matches("button")) one.setAttribute("aria-pressed", String(own && !again));
    });
    box.classList.toggle("lighting", !again);
    box.dataset.lit = again ? "" : chosen;
  };
  document.addEventListener("click", (event) => {
    const pressed = event.target.closest("[data-way-line], [data-way-step]");
    if (pressed && !event.target.closest(".set-right")) light(pressed);
  });

  // ---- keys
  document.addEventListener("keydown", (event) => {
    const target = event.target;
    if (target.closest && target.closest("#reading") && onPage(event)) {
      event.preventDefault();
      return;
    }
    const vertical = event.key === "ArrowUp" || event.key === "ArrowDown";
    if (event.key === "Escape") {
      if (closeTray() || closeDrawer()) event.preventDefault();
      return;
    }
    const line = target.closest && target.closest("[data-line], [data-panel]");
    if (line && vertical && event.altKey) {
      event.preventDefault();
      const open = line.dataset.panel ? `?open=${line.dataset.panel}` : "";
      post(lineUrl(line, "move") + open, line, {
        by: event.key === "ArrowUp" ? -1 : 1
      });
      return;
    }
    if (target.matches && target.matches(".amount") && vertical && !event.altKey) {
      event.preventDefault();
      post(target.dataset.nudge, target.form || target, {
        steps: event.key === "ArrowUp" ? 1 : -1
      });
      return;
    }
    if (target.matches && target.matches(".amount") && event.key === "Enter") {
      event.preventDefault();
      target.dispatchEvent(new Event("change", {
        bubbles: true
      }));
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey || typing(target) || $("dialog[open]") || !keysOn()) return;
    if (event.key === "/") {
      event.preventDefault();
      $("#finder")?.focus();
      return;
    }
    if (event.key === "?") {
      event.preventDefault();
      $(".band-button").click();
      return;
    }
    if (event.key === "n" && $("#new-line")) {
      event.preventDefault();
      $("#new-line").focus();
      return;
    }
    if (line && event.key === "s") {
      event.preventDefault();
      const swaps = $("[data-swaps]", line);
      if (swaps) swaps.click();
      return;
    }
    if (line && event.key === "e") {
      event.preventDefault();
      document.getElementById(`name-${line.dataset.line || line.dataset.panel}`).click();
      return;
    }
    const keyed = document.querySelector(`[data-key="${CSS.escape(event.key)}"]:not(:disabled)`);
    if (keyed) {
      event.preventDefault();
      press(keyed);
    }
  });

  // ---- a password that can be looked at while it is typed
  document.querySelectorAll("[data-show]").forEach((box) => {
    box.addEventListener("change", () => {
      const fields = box.closest("form").querySelectorAll("input[autocomplete$=password]");
      fields.forEach((field) => (field.type = box.checked ? "text" : "password"));
    });
  });

  // ---- find a food or recipe
  const finder = $("#finder"),
    list = $("#found");
  // Sheets that are only printed have no band.
  if (!finder) return;
  let chosen = -1,
    timer = 0;
  const show = (items) => {
    chosen = -1;
    list.replaceChildren(...items.map((item, index) => {
      const row = document.createElement("li");
      row.setAttribute("role", "option");
      row.id = `found-${index}`;
      row.dataset.url = item.url;
      const name = document.createElement("span");
      name.textContent = item.name;
      const kind = document.createElement("small");
      kind.textContent = item.kind;
      row.append(name, kind);
      row.addEventListener("mousedown", () => {
        location.href = item.url;
      });
      return row;
    }));
    list.hidden = items.length === 0;
    finder.setAttribute("aria-expanded", String(items.length > 0));
  };
  finder.addEventListener("input", () => {
    clearTimeout(timer);
    timer = setTimeout(async () => {
      if (!finder.value.trim()) {
        show([]);
        return;
      }
      const answer = await fetch(`/find?q=${encodeURIComponent(finder.value)}`);
      if (answer.ok) show(await answer.json());
    }, 120);
  });
  finder.addEventListener("keydown", (event) => {
    const rows = [...list.children];
    if (event.key === "Escape") {
      show([]);
      finder.blur();
      return;
    }
    if (event.key === "Enter" && rows.length) {
      event.preventDefault();
      location.href = rows[Math.max(0, chosen)].dataset.url;
      return;
    }
    if ((event.key === "ArrowDown" || event.key === "ArrowUp") && rows.length) {
      event.preventDefault();
      chosen = (chosen + (event.key === "ArrowDown" ? 1 : -1) + rows.length) % rows.length;
      rows.forEach((row, index) => row.setAttribute("aria-selected", String(index === chosen)));
      finder.setAttribute("aria-activedescendant", rows[chosen].id);
    }
  });
  finder.addEventListener("blur", () => setTimeout(() => show([]), 150));
})();
