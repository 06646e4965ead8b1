/** The signed-in person on whose behalf a service acts, and their organisation. */
export type Actor = {
  userId: string;
  name: string;
  organisationId: string;
  organisation: { name: string; country: string; timeZone: string };
};
