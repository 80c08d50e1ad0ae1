/** How the label of every field looks. */
export const labelStyle = { fontSize: '16px', fontWeight: '600' } as const;
