package org.sobercompass.sources.database;

/**
 * Statements around one that revokes rights on a table: PostgreSQL revokes the same rights on its
 * columns with them (documentation of REVOKE), which nobody asked for. They are noted before, and
 * what went is given again after, by whoever gave it.
 */
final class ColumnsKept {
  private static final String GRANTS =
      "pg_attribute a cross join lateral aclexplode(a.attacl) x where a.attrelid = to_regclass(%s)";

  private static final String BEFORE =
      "do $sober$ begin perform set_config('sober.kept', coalesce((select json_agg("
          + "json_build_object('c', a.attname, 'p', x.privilege_type, 'o', x.is_grantable, 'g',"
          + " x.grantor::regrole::text, 'w', case when x.grantee = 0 then 'public' else"
          + " x.grantee::regrole::text end))::text from "
          + GRANTS
          + "), '[]'), true); end $sober$";

  private static final String AFTER =
      "do $sober$ declare k record; begin for k in select * from"
          + " json_to_recordset(current_setting('sober.kept')::json) as one(c text, p text, o"
          + " boolean, g text, w text) loop if not exists (select 1 from "
          + GRANTS
          + " and a.attname = k.c and x.privilege_type = k.p and x.is_grantable = k.o and"
          + " x.grantor::regrole::text = k.g and case when x.grantee = 0 then 'public' else"
          + " x.grantee::regrole::text end = k.w) then execute 'set local role ' || k.g; execute"
          + " format('grant %%s (%%I) on %%s to %%s%%s', k.p, k.c, %s, k.w, case when k.o then"
          + " ' with grant option' else '' end); execute 'reset role'; end if; end loop; end"
          + " $sober$";

  private ColumnsKept() {}

  /** Notes who has what on the columns of a table, as in {@code table "a"."b"}. */
  static String before(String table) {
    return String.format(java.util.Locale.ROOT, BEFORE, name(table));
  }

  /** Gives again what went. */
  static String after(String table) {
    return String.format(java.util.Locale.ROOT, AFTER, name(table), SqlForm.literal(table));
  }

  private static String name(String table) {
    return SqlForm.literal(table.substring(table.indexOf(' ') + 1));
  }
}
