// What is wrong with the page as it stands in its window: measured, not looked at.
({ bench, letters, first }) => {
  const found = [];
  const root = document.documentElement;
  const wide = root.clientWidth;
  const high = window.innerHeight;
  const name = (e) => {
    const said = (e.getAttribute("aria-label") || e.innerText || e.textContent || "").trim().replace(/\s+/g, " ").slice(0, 40);
    return `${e.tagName.toLowerCase()} “${said}”`;
  };
  const shown = (e) => {
    if (!e.checkVisibility({ opacityProperty: true, visibilityProperty: true })) return false;
    const box = e.getBoundingClientRect();
    if (box.width <= 1 || box.height <= 1) return false; // for screen readers alone
    return !e.closest("[aria-hidden=true], [inert]") || e instanceof SVGElement;
  };
  // A place that is scrolled by itself, and can be by keys.
  const scroller = (e) => {
    for (let at = e.parentElement; at && at !== document.body; at = at.parentElement)
      if (["auto", "scroll"].includes(getComputedStyle(at).overflowX)) return at;
    return null;
  };
  const hasText = (e) => [...e.childNodes].some((n) => n.nodeType === 3 && n.textContent.trim());
  if (root.scrollWidth > wide) found.push(`the page is ${root.scrollWidth - wide} px too wide`);
  const everything = [...document.querySelectorAll("body *")].filter(shown);
  for (const e of everything) {
    const box = e.getBoundingClientRect();
    const style = getComputedStyle(e);
    if (hasText(e) && (box.right > wide + 1 || box.left < -1) && !scroller(e) && style.position !== "fixed")
      found.push(`outside: ${name(e)} from ${Math.round(box.left)} to ${Math.round(box.right)}`);
    const typed = ["SELECT", "INPUT", "TEXTAREA"].includes(e.tagName);
    if (!(e instanceof SVGElement) && !typed) {
      const slides = ["auto", "scroll"].includes(style.overflowX);
      const hides = !slides && [style.overflowX, style.overflowY].some((how) => how === "hidden" || how === "clip");
      // What is cut short on purpose says the whole of it to whoever points at it.
      if (hides && e.innerText?.trim() && !e.title && (e.scrollWidth > e.clientWidth + 1 || e.scrollHeight > e.clientHeight + 2))
        found.push(`cut: ${name(e)}`);
    }
    if (hasText(e)) {
      let size = parseFloat(style.fontSize);
      if (e instanceof SVGElement) {
        const by = e.getScreenCTM?.();
        if (by) size *= Math.hypot(by.a, by.b);
      }
      if (size < letters - 0.05) found.push(`small letters (${size.toFixed(1)} px): ${name(e)}`);
    }
  }
  const targets =
    "button, a[href], select, textarea, summary, input:not([type=hidden]), [role=button], [role=menuitem], [role=tab], [role=switch]";
  for (const e of everything.filter((e) => e.matches(targets) && !e.disabled)) {
    // A word of a sentence is as high as its line.
    const inSentence = [...e.parentElement.childNodes].some((n) => n.nodeType === 3 && n.textContent.trim().length > 1);
    if (getComputedStyle(e).display === "inline" && inSentence) continue;
    let box = e.getBoundingClientRect();
    const label = e.matches("input[type=checkbox], input[type=radio]") && e.closest("label");
    if (label) box = label.getBoundingClientRect();
    const least = e.closest("main") ? bench : 44;
    if (box.height < least - 0.5 || box.width < least - 0.5)
      found.push(`small target (${Math.round(box.width)}×${Math.round(box.height)}): ${name(e)}`);
    const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
    const over = x > 0 && x < wide && y > 0 && y < high && !scroller(e) ? document.elementFromPoint(x, y) : null;
    const stuck = over && [...document.querySelectorAll("*")].some((s) => s.contains(over) && getComputedStyle(s).position === "sticky");
    if (over && !stuck && !e.contains(over) && !over.contains(e) && !(label && label.contains(over)))
      found.push(`covered: ${name(e)} by ${name(over)}`);
  }
  // The one thing to do next is seen without scrolling.
  if (first) {
    const deeds = everything.filter((e) => e.matches("main button.bg-signal:not([role=radio]), main a.bg-signal") && !e.closest("[data-later]"));
    const seen = deeds.some((e) => {
      const box = e.getBoundingClientRect();
      return box.top >= 0 && box.bottom <= high + 1;
    });
    if (deeds.length > 0 && !seen) found.push(`out of sight: ${name(deeds[0])} at ${Math.round(deeds[0].getBoundingClientRect().top)}`);
  }
  return [...new Set(found)];
}
