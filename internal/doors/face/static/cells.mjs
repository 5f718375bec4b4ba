// Lists of cells as people type them, and what a touch on a cell does to them. Nothing
// here knows the page: core/tray reads the same lists, and both are tried on one table.

// name is a cell as it is called: A1 is the first of the first row.
export function name(row, col) {
  return (
    (row < 26 ? "" : String.fromCharCode(64 + Math.floor(row / 26))) +
    String.fromCharCode(65 + (row % 26)) +
    (col + 1)
  );
}

// parse reads "A1-B3, C2" as names, each once. What is no cell is left to the server to refuse.
export function parse(text) {
  const out = new Set();
  const row = (s) =>
    [...s].reduce((n, c) => n * 26 + c.charCodeAt(0) - 64, 0) - 1;
  for (const part of text.toUpperCase().split(/[\s,;]+/)) {
    const m = /^([A-Z]{1,2})([1-9]\d*)(?:-([A-Z]{1,2})([1-9]\d*))?$/.exec(part);
    if (!m) continue;
    const r = [row(m[1]), row(m[3] || m[1])],
      c = [Number(m[2]), Number(m[4] || m[2])];
    if (Math.abs(r[0] - r[1]) > 60 || Math.abs(c[0] - c[1]) > 60) continue;
    for (let i = Math.min(...r); i <= Math.max(...r); i++)
      for (let j = Math.min(...c); j <= Math.max(...c); j++)
        out.add(name(i, j - 1));
  }
  return [...out];
}

// put is a list with a cell in it, at its end, or without it.
export function put(list, cell, isIn) {
  const names = parse(list).filter((x) => x !== cell);
  if (isIn) names.push(cell);
  return names.join(", ");
}

// wish is what a touch with a tool on a cell asks for: its mark, or none again. A cell
// that is marked so loses the mark; one that was so from the beginning needs none.
export function wish(tool, is, was) {
  return is === tool || tool === was ? "" : tool;
}

// raised is how many more are up than the page began with.
export function raised(cells) {
  const alive = (s) => s === "sprouted" || s === "thinned",
    low = (s) => s === "sown" || s === "empty";
  return (
    cells.filter((c) => alive(c.is) && low(c.was)).length -
    cells.filter((c) => alive(c.was) && low(c.is)).length
  );
}
