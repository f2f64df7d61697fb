import { InvalidInput } from '@veldtwind/core/numerics';
import { refusalOf } from '@veldtwind/core/limits';
import { flownCondition, MOST_FLOWN, type FlownCondition } from '@veldtwind/core/polar';

const KEYS = ['cl', 'alpha', 're', 'mach', 'ncrit'] as const;
const EXAMPLE = 'For instance --at "cl=0.4,re=7e5;cl=1.0,re=4e5".';

/**
 * Reads conditions such as `cl=0.4,re=7e5;alpha=2,re=1e6,mach=0.1`.
 * @param ncrit critical amplification where a condition gives none. @throws InvalidInput `at` naming the condition and what is wrong with it.
 */
export function readConditions(text: string | undefined, ncrit: number): FlownCondition[] {
  const refuse = (what: string): never => {
    throw new InvalidInput('at', what, EXAMPLE, 'at');
  };
  const parts = (text ?? '')
    .split(';')
    .map((p) => p.trim())
    .filter(Boolean);
  if (parts.length === 0) return refuse('At which lift and Reynolds number? --at gives no condition.');
  if (parts.length > MOST_FLOWN) return refuse(`--at gives ${parts.length} conditions; ${MOST_FLOWN} are the most.`);
  return parts.map((part, i): FlownCondition => {
    const wrong = (what: string) => refuse(`Condition ${i + 1} of --at, "${part}", ${what}.`);
    const found = new Map<string, number>();
    for (const pair of part.split(',')) {
      const [name, value = ''] = pair.split('=').map((p) => p.trim());
      if (!(KEYS as readonly string[]).includes(name))
        return wrong(`has "${name}", which is none of ${KEYS.join(', ')}`);
      const number = Number(value.replace('−', '-'));
      if (value === '' || !Number.isFinite(number)) return wrong(`has ${name} = "${value}", which is no number`);
      if (found.has(name)) return wrong(`gives ${name} twice`);
      found.set(name, number);
    }
    const [cl, alphaDeg, reynolds] = [found.get('cl'), found.get('alpha'), found.get('re')];
    if (reynolds === undefined) return wrong('has no Reynolds number (re)');
    if ((cl === undefined) === (alphaDeg === undefined)) return wrong('needs either cl or alpha');
    const checked = flownCondition.safeParse({
      ...(cl === undefined ? { alphaDeg } : { cl }),
      conditions: {
        reynolds,
        criticalAmplification: found.get('ncrit') ?? ncrit,
        ...(found.has('mach') ? { mach: found.get('mach') } : {}),
      },
    });
    if (!checked.success) throw refusalOf(checked.error, `Condition ${i + 1} of --at`);
    return checked.data;
  });
}
