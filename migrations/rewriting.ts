/** Writes a function again with one text in place of another, which stands in it. Migrations that have landed build on it: it is never changed. */
export const rewriting = (signature: string, [from, to]: readonly [string, string]) => `
    DO $do$ DECLARE body text := pg_get_functiondef('${signature}'::regprocedure); BEGIN
      IF position($t$${from}$t$ IN body) = 0 THEN RAISE EXCEPTION '% has another text', '${signature}'; END IF;
      EXECUTE replace(body, $t$${from}$t$, $t$${to}$t$);
    END $do$;`;
