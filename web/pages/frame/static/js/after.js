// Does something once what was pressed is seen: on a slow tablet that comes first.
export const afterPaint = (what) => requestAnimationFrame(() => setTimeout(what));
