import type { ReportTable } from "./report-tables";

const ink = { text: "#22252b", soft: "#5d6068", rule: "#ddd6c8", bars: ["#34418f", "#8d2438", "#b9bcc6"] } as const;
const escaped = (text: string): string => text.replace(/[<>&"]/g, (sign) => ({ "<": "&lt;", ">": "&gt;", "&": "&amp;", '"': "&quot;" })[sign] ?? sign);
const labelWidth = 150;
const width = 500;
const rowHeight = 20;
const longest = 28;

/** Bars that lie on each other, a row each, drawn from the table that stands beside: its first column are the names, the others numbers. */
export function barChart({ columns, rows }: ReportTable): string {
  const numbers = rows.map((row) => row.slice(1).map(Number));
  const most = Math.max(1, ...numbers.map((row) => row.reduce((sum, n) => sum + n, 0)));
  const scale = (width - labelWidth - 50) / most;
  const bars = rows.map((row, i) => {
    const y = i * rowHeight + 22;
    let x = labelWidth;
    const parts = (numbers[i] ?? []).map((n, k) => {
      const part = `<rect x="${x.toFixed(1)}" y="${y}" width="${(n * scale).toFixed(1)}" height="13" fill="${ink.bars[k % ink.bars.length] ?? ink.text}"/>`;
      x += n * scale;
      return n > 0 ? part : "";
    });
    const total = (numbers[i] ?? []).reduce((sum, n) => sum + n, 0);
    const name = row[0] ?? "";
    const label = name.length > longest ? `${name.slice(0, longest)} …` : name;
    return (
      `<text x="${labelWidth - 8}" y="${y + 10}" font-size="9" text-anchor="end" fill="${ink.text}">${escaped(label)}</text>${parts.join("")}` +
      `<text x="${(x + 5).toFixed(1)}" y="${y + 10}" font-size="9" fill="${ink.soft}">${total}</text>`
    );
  });
  let at = labelWidth;
  const legend = columns.slice(1).map((column, k) => {
    const x = at;
    at += 24 + column.length * 6;
    return `<rect x="${x}" y="2" width="9" height="9" fill="${ink.bars[k % ink.bars.length] ?? ink.text}"/><text x="${x + 13}" y="10" font-size="9" fill="${ink.soft}">${escaped(column)}</text>`;
  });
  const height = rows.length * rowHeight + 28;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${legend.join("")}${bars.join("")}<line x1="${labelWidth}" y1="18" x2="${labelWidth}" y2="${height - 4}" stroke="${ink.rule}"/></svg>`;
}
