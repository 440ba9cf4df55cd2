import { z } from 'zod';
import { nameText } from '../units/names.ts';

/** What server and page tell each other of devices in the shop's network. */
export const ROLES = ['bench', 'whole'] as const;

/** At the bench: plans are read, records and photographs written, readings sent. Whole: everything that the shop's computer can. */
export type Role = (typeof ROLES)[number];

export const MOST_DEVICE_NAME = 60;

export const deviceName = nameText(MOST_DEVICE_NAME, 'The device needs a name');

/** What of a device can be changed. */
export const deviceChange = z.strictObject({
  name: deviceName.optional(),
  role: z.enum(ROLES, { error: `role must be one of: ${ROLES.join(', ')}` }).optional(),
});

/** A device that was let in by the passphrase. */
export interface Device {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly letInAt: string;
  readonly seenAt: string;
}

/** Where other devices find Retablo, and the same as a code to scan (a data address of a picture). */
export interface ShopAddress {
  readonly address: string;
  readonly code: string;
}

/** What the server says to whoever asks: who it takes them for. */
export interface AtTheDoor {
  readonly role: Role;
  /** Nothing on the shop's computer itself. */
  readonly device: Device | null;
}

/** The shop's devices, and where more are let in: nowhere where Retablo answers on its own machine alone. */
export interface ShopDevices {
  readonly devices: readonly Device[];
  readonly network: { readonly addresses: readonly ShopAddress[]; readonly encrypted: boolean } | null;
}
