/**
 * Whether the rate at which a player forgets is recovered from the first repetition of each day: `npm run bench:forgetting`. Players
 * with planted rates practise four passages on days by chance; what they lose follows the planted law, and in the last rows another
 * one (exponential, and a step), which the fit does not know of. Prints a table.
 */
import { chance } from '@isochron/core/analysis';
import { bearableDays, fitForgetting, fitPassage, openingsOf } from '@isochron/core/planning';
import { dayAt, type PracticeDay } from '@isochron/core/schema';

const PLAYERS = 60;
const FIRST = 20_400;

interface Law {
  name: string;
  rate: number;
  lost(days: number): number;
}
const power = (rate: number): Law => ({
  name: `${rate} by the logarithm of days`,
  rate,
  lost: (days) => rate * Math.log(days),
});
const LAWS: readonly Law[] = [
  ...[0, 0.01, 0.02, 0.04, 0.08].map(power),
  // Their nearest rate: the loss after a week over the logarithm of seven.
  { name: 'exponential, 1 % a day', rate: 0.07 / Math.log(7), lost: (days) => 0.01 * days },
  { name: 'nothing for three days, then 8 %', rate: 0.08 / Math.log(7), lost: (days) => (days > 3 ? 0.08 : 0) },
];

/** Days of one player; `sharpness` and `night` differ from player to player. */
const play = ({ lost }: Law, seed: number, days: number): PracticeDay[] => {
  const { uniform, normal } = chance(seed);
  const sharpness = 0.03 + 0.07 * uniform();
  const night = 0.03 * normal();
  const passages = Array.from({ length: 4 }, (_, k) => ({ id: `p${k}`, able: Math.log(70 + 40 * uniform()), last: -1 }));
  const out: PracticeDay[] = [];
  for (let day = 0; day < days; day += 1) {
    if (uniform() < 0.25) continue;
    for (const one of passages) {
      if (uniform() < 0.55) continue;
      const gap = one.last < 0 ? 0 : day - one.last;
      const opens = one.able - (gap ? night + lost(gap) : 0);
      // As the app has it: two notches under what was clean.
      const openLog = one.able - 0.04 - 0.03 * uniform();
      const clean = uniform() < 1 / (1 + Math.exp((openLog - opens) / sharpness));
      // What was lost comes back in the day; a little is gained.
      one.able += 0.003 * uniform();
      one.last = day;
      const best = Math.exp(one.able + 0.015 * normal());
      out.push({
        passageId: one.id,
        variantId: 'first',
        sectionId: 'whole',
        day: dayAt(FIRST + day),
        takes: 1,
        repetitions: 10,
        clean: 6,
        playedS: 300,
        fastS: 0,
        withoutClickS: 0,
        openBpm: gap ? Math.exp(openLog) : null,
        openClean: gap ? clean : null,
        bestCleanBpm: best,
      });
    }
  }
  return out;
};

console.log(
  '| planted | days | median of the rates found | middle 80 % of players | planted rate inside the 80 % range | due after, planted | found |\n|---|---|---|---|---|---|---|',
);
for (const law of LAWS)
  for (const days of [30, 90, 365]) {
    const found = Array.from({ length: PLAYERS }, (_, k) => {
      const openings = openingsOf(play(law, 5000 + 31 * k + days, days));
      const player = fitForgetting(openings);
      const passage = fitPassage(
        openings.filter((one) => one.configId.startsWith('p0')),
        player,
      );
      return { player, passage };
    });
    const rates = found.map(({ player }) => player.rate).sort((a, b) => a - b);
    const at = (share: number) => rates[Math.floor(share * (rates.length - 1))] as number;
    const inside =
      found.filter(({ player }) => player.low - 0.002 <= law.rate && law.rate <= player.high + 0.002).length / PLAYERS;
    console.log(
      `| ${law.name} | ${days} | ${at(0.5).toFixed(3)} | ${at(0.1).toFixed(3)}–${at(0.9).toFixed(3)} | ${Math.round(100 * inside)} % | ${bearableDays({ rate: law.rate }).toFixed(0)} | ${bearableDays({ rate: at(0.5) }).toFixed(0)} |`,
    );
  }
