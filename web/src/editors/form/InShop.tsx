import type { ReactNode } from 'react';
import type { Shop } from '../../../../core/shop/shop.ts';
import { ShopContext } from '../../document/useEvaluation.ts';
import { UnitsContext } from '../../ui/units.ts';

/** Fields and figures inside are written in this shop's units, and choose from its materials. */
export const InShop = ({ shop, children }: { shop: Shop; children: ReactNode }) => (
  <ShopContext value={shop}>
    <UnitsContext value={shop}>{children}</UnitsContext>
  </ShopContext>
);
