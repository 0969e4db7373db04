/** Where a question stands on the survey, as the anchor of its row. */
export const asksId = (asks: { room: string; id: string; question_id: string }) =>
  `asked-${asks.room}-${asks.id}-${asks.question_id}`;
