/**
 * Unsteadiness grows by about half for each tenth of tempo beyond what is easy (our choice, no source: between the learners of whom curves
 * tell 1.25 and 2.5). A player's own curve may be steeper.
 */
export const USUAL_GROWTH_A_TENTH = 1.5;
