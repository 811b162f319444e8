// The dots of a scatter plot answer to the pointer and to the arrow keys with the case's name and values.
for (const figure of document.querySelectorAll("figure")) {
  const dots = [...figure.querySelectorAll("circle.case")].sort((a, b) => a.getAttribute("cx") - b.getAttribute("cx"));
  const told = figure.querySelector(".told");
  if (!dots.length || !told) continue;
  told.textContent = "Point at a dot, or move with the arrow keys, to see whose it is.";
  dots.forEach((dot, at) => {
    const say = () => { told.textContent = dot.querySelector("title").textContent; };
    dot.addEventListener("mouseenter", say);
    dot.addEventListener("focus", say);
    dot.addEventListener("keydown", (event) => {
      const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
      if (!step) return;
      event.preventDefault();
      const next = dots[(at + step + dots.length) % dots.length];
      dot.setAttribute("tabindex", "-1");
      next.setAttribute("tabindex", "0");
      next.focus();
    });
  });
}
