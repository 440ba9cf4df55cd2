import { type Can, roomOf } from '../canister/can.ts';
import { rectangle } from '../geometry/outline.ts';
import { regionArea, without } from '../geometry/regions.ts';
import { plural, warning } from '../moves/contract/common.ts';
import { type Finding, moveOf } from '../moves/index.ts';
import { fitted, thinPlaces } from '../picture/fitting.ts';
import { fillingsOf } from '../picture/picture.ts';
import type { Shop } from '../shop/shop.ts';
import { formatFine } from '../units/length.ts';
import { type Judge, NOTHING_TO_SAY } from './judgement.ts';

/** Findings of a picture in powders: not walked back yet, beyond the wall, or too thin to fill. */
function pictureFound(p: Can, shop: Shop): Finding[] {
  const { picture } = p;
  if (!picture) return [];
  if (picture.place.on !== 'can' && !picture.walked)
    return [
      warning(
        'not walked back',
        'The picture is placed on the finished face and is not walked back to the can yet: only the ground powder is in it. Open Canister, Form.',
        { parameter: 'picture' },
      ),
    ];
  const room = roomOf(p);
  const fillings = fillingsOf(picture);
  const outline = [room.outline ?? rectangle(room.widthMm, room.heightMm)];
  const findings: Finding[] = [];
  const several = new Set([p.powder, ...fillings.map((f) => f.powder)]).size > 1;
  if (!several)
    findings.push(
      warning('one powder', 'The picture and its ground are of one powder: nothing of it will be seen.', {
        parameter: 'picture',
      }),
    );
  const beyond = fillings.reduce((sum, f) => sum + regionArea(without(f.region, outline)), 0);
  if (beyond > 0.5)
    findings.push(
      warning(
        'beyond the wall',
        `${Math.round(beyond)} mm² of the picture lie beyond the can’s wall and are lost: make it smaller, or the can larger.`,
        {
          parameter: 'picture',
          ...(picture.place.on === 'can' && {
            remedy: {
              label: 'Fit it into the can',
              set: { picture: { ...picture, place: fitted(picture, room) } },
            },
          }),
        },
      ),
    );
  const thin = thinPlaces(fillings, outline, picture.form.leastMm);
  if (thin.length > 0)
    findings.push(
      warning(
        'too thin to fill',
        `${plural(thin.length, 'place')} of the picture ${thin.length === 1 ? 'is' : 'are'} thinner than ${formatFine(picture.form.leastMm, shop.lengths)}: powder does not fill there. Thicken or drop them in Canister, Form, or make the can larger.`,
        { parameter: 'picture' },
      ),
    );
  return findings;
}

export const judgePicture: Judge = ({ result: { step }, shop }) => {
  const can = moveOf(step.kind).fills?.(step.parameters);
  return can ? { figures: [], findings: pictureFound(can, shop) } : NOTHING_TO_SAY;
};
