package org.sobercompass.sources.database;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.system.database.AclItem;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;
import org.sobercompass.core.system.database.DatabaseRights;
import org.sobercompass.core.system.database.DefaultPrivileges;

/**
 * Grants as statements of PostgreSQL, and how to ask for them. An object is named by its kind and
 * its names in quotes, {@code table "field"."visits"}; what it has are items as the server writes
 * them (PostgreSQL 15 documentation, section 5.7), or the members of a role.
 */
final class SqlForm {
  /** What a role is called, whose members change. */
  static final String ROLE = "role";

  /** Before the name of an object whose owner is meant: {@code owner-of-table "a"."b"}. */
  static final String OWNER_OF = "owner-of-";

  private static final String WITH_ADMIN = " with admin option";
  private static final String OWNER_OF_RELATION =
      "select array[pg_get_userbyid(relowner)::text] from pg_class c join pg_namespace n on n.oid ="
          + " relnamespace where nspname = %s and relname = %s";
  private static final Pattern NAME = Pattern.compile("\"((?:[^\"]|\"\")*)\"");

  /** How the grants of each kind of object are asked for; the names follow in their order. */
  private static final Map<String, String> QUERIES =
      Map.of(
          "database",
          "select coalesce(datacl, acldefault('d', datdba))::text[] from pg_database"
              + " where datname = %s",
          "schema",
          "select coalesce(nspacl, acldefault('n', nspowner))::text[] from pg_namespace"
              + " where nspname = %s",
          "table",
          relation("r"),
          "sequence",
          relation("s"),
          "column",
          "select coalesce(attacl, '{}')::text[] from pg_attribute a join pg_class c on c.oid ="
              + " attrelid join pg_namespace n on n.oid = relnamespace where nspname = %s and"
              + " relname = %s and attname = %s and not attisdropped",
          "routine",
          "select coalesce(proacl, acldefault('f', proowner))::text[] from pg_proc p join"
              + " pg_namespace n on n.oid = pronamespace where nspname = %s and proname || '(' ||"
              + " pg_get_function_identity_arguments(p.oid) || ')' = %s",
          ROLE,
          "select array(select '\"' || replace(m.rolname, '\"', '\"\"') || '\"' || case when"
              + " admin_option then '"
              + WITH_ADMIN
              + "' else '' end from pg_auth_members a join pg_roles m on m.oid = a.member where"
              + " a.roleid = r.oid) from pg_roles r where r.rolname = %s");

  /** How the owner of each kind of object is asked for. */
  private static final Map<String, String> OWNERS =
      Map.of(
          "database",
          "select array[pg_get_userbyid(datdba)::text] from pg_database where datname = %s",
          "schema",
          "select array[pg_get_userbyid(nspowner)::text] from pg_namespace where nspname = %s",
          "table",
          OWNER_OF_RELATION,
          "sequence",
          OWNER_OF_RELATION,
          "routine",
          "select array[pg_get_userbyid(proowner)::text] from pg_proc p join pg_namespace n on"
              + " n.oid = pronamespace where nspname = %s and proname || '(' ||"
              + " pg_get_function_identity_arguments(p.oid) || ')' = %s");

  /** Before the kind of object that default privileges are for: {@code new-table by "a"}. */
  private static final String NEW = "new-";

  private SqlForm() {}

  private static String relation(String kind) {
    return "select coalesce(relacl, acldefault('"
        + kind
        + "'::\"char\", relowner))::text[] from pg_class c join pg_namespace n on n.oid ="
        + " relnamespace where nspname = %s and relname = %s";
  }

  /** The name of an object, from the names on the way to it in its database. */
  static String object(Kind kind, List<String> names) {
    String word =
        switch (kind) {
          case VIEW -> "table";
          case FUNCTION -> "routine";
          default -> kind.name().toLowerCase(Locale.ROOT);
        };
    return word + " " + String.join(".", names.stream().map(SqlForm::quoted).toList());
  }

  /**
   * The name of the default privileges of a role.
   *
   * @param schema where, or empty for all schemas
   */
  static String later(DefaultPrivileges.Made made, String maker, String schema) {
    return NEW
        + made.word()
        + " by "
        + quoted(maker)
        + (schema.isEmpty() ? "" : " in " + quoted(schema));
  }

  /** Asks for the default privileges of a role: in a schema, else for all. */
  private static String later(String object) {
    List<String> names = names(object);
    DefaultPrivileges.Made made = made(object);
    boolean all = names.size() == 1;
    // The one letter that differs from that of pg_default_acl (PostgreSQL 15 source, acldefault).
    char usual = made == DefaultPrivileges.Made.SEQUENCE ? 's' : made.letter();
    return "select coalesce((select defaclacl from pg_default_acl where defaclrole = r.oid and"
        + " defaclobjtype = '"
        + made.letter()
        + "' and defaclnamespace = "
        + (all ? "0), acldefault('" + usual + "', r.oid)" : "n.oid), '{}'")
        + ")::text[] from pg_roles r"
        + (all ? "" : ", pg_namespace n")
        + " where r.rolname = %s"
        + (all ? "" : " and n.nspname = %s");
  }

  private static DefaultPrivileges.Made made(String object) {
    String word = kind(object).substring(NEW.length());
    return DefaultPrivileges.Made.valueOf(word.toUpperCase(Locale.ROOT));
  }

  /** A name as an identifier in double quotes. */
  static String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  static String literal(String text) {
    return "'" + text.replace("'", "''") + "'";
  }

  private static String kind(String object) {
    return object.substring(0, object.indexOf(' '));
  }

  private static List<String> names(String object) {
    List<String> names = new ArrayList<>();
    Matcher matcher = NAME.matcher(object);
    while (matcher.find()) {
      names.add(matcher.group(1).replace("\"\"", "\""));
    }
    return names;
  }

  /** Asks for all that an object has, or who owns it, as one array of texts. */
  static String query(String object) {
    Object[] names = names(object).stream().map(SqlForm::literal).toArray();
    String kind = kind(object);
    String query =
        kind.startsWith(NEW)
            ? later(object)
            : kind.startsWith(OWNER_OF)
                ? OWNERS.getOrDefault(kind.substring(OWNER_OF.length()), "")
                : QUERIES.getOrDefault(kind, "");
    return String.format(Locale.ROOT, query, names);
  }

  /** A member of a role, as the query gives it. */
  static String member(String role, boolean admin) {
    return quoted(role) + (admin ? WITH_ADMIN : "");
  }

  /** The statements of one record: what must be so, then what changes, all of it or nothing. */
  static List<String> statements(AmendmentRecord record) {
    List<String> all = new ArrayList<>();
    for (Difference difference : record.differences()) {
      difference.removed().forEach(item -> all.add(check(difference.name(), item, true)));
      difference.added().forEach(item -> all.add(check(difference.name(), item, false)));
    }
    // Whoever may not use a schema any more cannot name what is in it.
    List<Difference> outsideIn = new ArrayList<>(record.differences());
    outsideIn.sort(Comparator.comparingInt(difference -> depth(difference.name())));
    for (int i = outsideIn.size() - 1; i >= 0; i--) {
      Difference difference = outsideIn.get(i);
      boolean table = kind(difference.name()).equals("table") && !difference.removed().isEmpty();
      if (table) {
        all.add(ColumnsKept.before(on(difference.name())));
      }
      difference.removed().forEach(item -> all.addAll(change(difference.name(), item, false)));
      if (table) {
        all.add(ColumnsKept.after(on(difference.name())));
      }
    }
    for (Difference difference : outsideIn) {
      difference.added().forEach(item -> all.addAll(change(difference.name(), item, true)));
    }
    return all;
  }

  private static int depth(String object) {
    return switch (kind(object)) {
      case ROLE -> 0;
      case "database" -> 1;
      case "schema" -> 2;
      default -> 3;
    };
  }

  /** Ends the transaction where something is not as it was read. */
  private static String check(String object, String item, boolean there) {
    boolean plain = kind(object).equals(ROLE) || kind(object).startsWith(OWNER_OF);
    String found =
        plain
            ? literal(item) + " = any ((" + query(object) + ")::text[])"
            : literal(item) + "::aclitem = any ((" + query(object) + ")::aclitem[])";
    String said = object + ": " + item + (there ? " is not there" : " is there already");
    return "do $sober$ begin if "
        + (there ? "not coalesce(" + found + ", false)" : "coalesce(" + found + ", false)")
        + " then raise exception using errcode = 'SC001', message = "
        + literal("not as it was read: " + said)
        + "; end if; end $sober$";
  }

  private static List<String> change(String object, String item, boolean gives) {
    if (kind(object).startsWith(OWNER_OF)) {
      return gives
          ? List.of(
              "alter " + on(object.substring(OWNER_OF.length())) + " owner to " + quoted(item))
          : List.of();
    }
    if (kind(object).equals(ROLE)) {
      boolean admin = item.endsWith(WITH_ADMIN);
      String member = admin ? item.substring(0, item.length() - WITH_ADMIN.length()) : item;
      String role = quoted(names(object).get(0));
      return List.of(
          gives
              ? "grant " + role + " to " + member + (admin ? WITH_ADMIN : "")
              : "revoke " + role + " from " + member);
    }
    AclItem read =
        AclItem.of(item).orElseThrow(() -> new IllegalArgumentException("no grant: " + item));
    String whom = read.grantee().isEmpty() ? "public" : quoted(read.grantee());
    List<String> all = new ArrayList<>();
    boolean later = kind(object).startsWith(NEW);
    if (!later) {
      all.add("set local role " + quoted(read.grantor()));
    }
    for (boolean option : new boolean[] {false, true}) {
      String rights = rights(object, read.mask(), option);
      if (!rights.isEmpty()) {
        String on = rights + " on " + on(object);
        all.add(
            (later ? whoseNew(object) : "")
                + (gives
                    ? "grant " + on + " to " + whom + (option ? " with grant option" : "")
                    : "revoke " + on + " from " + whom));
      }
    }
    if (!later) {
      all.add("reset role");
    }
    return all;
  }

  private static String whoseNew(String object) {
    List<String> names = names(object);
    return "alter default privileges for role "
        + quoted(names.get(0))
        + (names.size() == 1 ? "" : " in schema " + quoted(names.get(1)))
        + " ";
  }

  /** The rights that may, or may not, be passed on; of a column with its name. */
  private static String rights(String object, long mask, boolean option) {
    List<String> names = names(object);
    String column =
        kind(object).equals("column") ? " (" + quoted(names.get(names.size() - 1)) + ")" : "";
    List<String> rights = new ArrayList<>();
    for (char letter : DatabaseRights.LETTERS.toCharArray()) {
      boolean has = (mask & DatabaseRights.bit(letter)) != 0;
      boolean passes = (mask & DatabaseRights.option(letter)) != 0;
      if (has && passes == option) {
        rights.add(DatabaseRights.name(letter) + column);
      }
    }
    return String.join(", ", rights);
  }

  private static String on(String object) {
    if (kind(object).startsWith(NEW)) {
      return made(object).word() + "s";
    }
    List<String> names = names(object);
    return switch (kind(object)) {
      case "column" -> "table " + quoted(names.get(0)) + "." + quoted(names.get(1));
      case "routine" -> {
        String called = names.get(1);
        int open = called.indexOf('(');
        yield "routine "
            + quoted(names.get(0))
            + "."
            + quoted(called.substring(0, open))
            + called.substring(open);
      }
      default ->
          kind(object) + " " + String.join(".", names.stream().map(SqlForm::quoted).toList());
    };
  }
}
