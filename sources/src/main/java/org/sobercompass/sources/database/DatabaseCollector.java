package org.sobercompass.sources.database;

import java.io.IOException;
import java.io.Writer;
import java.sql.Array;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.sql.Types;
import java.util.Map;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Collects roles, objects and grants of one database into JSON lines, in one read-only snapshot. A
 * catalogue that may not be read gives a line that says so. O(objects).
 */
public final class DatabaseCollector {
  private static final JsonMapper JSON = JsonMapper.shared();
  private static final String MAY_NOT = "42501";

  /** Schemas of the server itself, whose grants are the same everywhere. */
  private static final String OURS =
      " n.nspname not like 'pg\\_%' and n.nspname <> 'information_schema' ";

  private static final Map<String, String> QUERIES =
      new java.util.TreeMap<>(
          Map.ofEntries(
              Map.entry(
                  "1 server",
                  "select 'server' kind, current_setting('server_version') version, current_user"
                      + " \"as\", current_database() database, to_char(now() at time zone 'UTC',"
                      + " 'YYYY-MM-DD\"T\"HH24:MI:SS\"Z\"') taken"),
              Map.entry(
                  "2 role",
                  "select 'role' kind, rolname name, rolsuper superuser, rolinherit inherits,"
                      + " rolcanlogin login, rolcreaterole creates_roles, rolcreatedb"
                      + " creates_databases, rolreplication replicates, rolbypassrls bypasses_rows,"
                      + " rolconnlimit connections, case when rolvaliduntil = 'infinity' then null"
                      + " else to_char(rolvaliduntil at time zone 'UTC',"
                      + " 'YYYY-MM-DD\"T\"HH24:MI:SS\"Z\"') end until from pg_roles order by"
                      + " rolname"),
              Map.entry(
                  "3 member",
                  "select 'member' kind, r.rolname role, m.rolname member, a.admin_option admin,"
                      // Version 16 says for each membership whether it inherits and lets switch.
                      + " coalesce((to_jsonb(a) ->> 'inherit_option')::boolean, m.rolinherit)"
                      + " inherits,"
                      + " coalesce((to_jsonb(a) ->> 'set_option')::boolean, true) switches"
                      + " from pg_auth_members a join pg_roles r on r.oid = a.roleid"
                      + " join pg_roles m on m.oid = a.member union all"
                      + " select 'member', 'pg_database_owner', pg_get_userbyid(datdba), false,"
                      + " true, false"
                      + " from pg_database where datname = current_database() order by 2, 3"),
              Map.entry(
                  "4 database",
                  "select 'database' kind, datname name, pg_get_userbyid(datdba) owner,"
                      + " datallowconn open, datconnlimit connections,"
                      + " coalesce(datacl, acldefault('d', datdba))::text[] grants"
                      + " from pg_database where datname = current_database()"),
              Map.entry(
                  "5 schema",
                  "select 'schema' kind, nspname name, pg_get_userbyid(nspowner) owner,"
                      + " coalesce(nspacl, acldefault('n', nspowner))::text[] grants"
                      + " from pg_namespace n where"
                      + OURS
                      + "order by nspname"),
              Map.entry(
                  "6 relation",
                  "select 'relation' kind, n.nspname schema, c.relname name, c.relkind type,"
                      + " pg_get_userbyid(c.relowner) owner,"
                      + " coalesce(c.relacl, acldefault(case c.relkind when 'S' then 's'::\"char\""
                      + " else 'r'::\"char\" end, c.relowner))::text[] grants,"
                      + " c.relrowsecurity rows, c.relforcerowsecurity rows_forced,"
                      + " pg_relation_is_updatable(c.oid, false) updatable,"
                      + " pg_relation_is_updatable(c.oid, true) triggered,"
                      + " coalesce(array_to_string(c.reloptions, ',') ~"
                      + " 'security_invoker=(true|on|yes|1)', false) invoker"
                      + " from pg_class c join pg_namespace n on n.oid = c.relnamespace"
                      + " where c.relkind in ('r','p','v','m','f','S') and"
                      + OURS
                      + "order by n.nspname, c.relname"),
              Map.entry(
                  "7 column",
                  "select 'column' kind, n.nspname schema, c.relname relation, a.attname name,"
                      + " a.attacl::text[] grants"
                      + " from pg_attribute a join pg_class c on c.oid = a.attrelid"
                      + " join pg_namespace n on n.oid = c.relnamespace"
                      + " where a.attnum > 0 and not a.attisdropped"
                      + " and c.relkind in ('r','p','v','m','f') and"
                      + OURS
                      + "and exists (select 1 from pg_attribute b where b.attrelid = c.oid"
                      + " and b.attacl is not null) order by n.nspname, c.relname, a.attnum"),
              // After the columns, since reads name them.
              Map.entry(
                  "7 read",
                  "select 'read' kind, n.nspname schema, v.relname name, m.nspname of_schema,"
                      + " c.relname of_name, array_agg(a.attname order by a.attnum) filter (where"
                      + " a.attname is not null)::text[] columns from pg_depend d join pg_rewrite w"
                      + " on w.oid = d.objid and w.ev_type = '1' join pg_class v on v.oid ="
                      + " w.ev_class and v.relkind = 'v' join pg_namespace n on n.oid ="
                      + " v.relnamespace join pg_class c on c.oid = d.refobjid and c.oid <> v.oid"
                      + " join pg_namespace m on m.oid = c.relnamespace left join pg_attribute a on"
                      + " a.attrelid = c.oid and a.attnum = d.refobjsubid and a.attnum > 0 where"
                      + " d.classid = 'pg_rewrite'::regclass and d.refclassid ="
                      + " 'pg_class'::regclass and d.deptype = 'n' and c.relkind in"
                      + " ('r','p','v','m','f','S') and"
                      + OURS
                      + "group by 2, 3, 4, 5 order by 2, 3, 4, 5"),
              Map.entry(
                  "7 policy",
                  "select 'policy' kind, n.nspname schema, c.relname relation, p.polname name,"
                      + " p.polcmd command, p.polpermissive permissive,"
                      + " array(select case when o = 0 then '' else pg_get_userbyid(o)::text end"
                      + " from unnest(p.polroles) o)::text[] roles"
                      + " from pg_policy p join pg_class c on c.oid = p.polrelid"
                      + " join pg_namespace n on n.oid = c.relnamespace where"
                      + OURS
                      + "order by 2, 3, 4"),
              Map.entry(
                  "8 function",
                  "select 'function' kind, n.nspname schema, p.proname || '(' ||"
                      + " pg_get_function_identity_arguments(p.oid) || ')' name,"
                      + " pg_get_userbyid(p.proowner) owner, p.prosecdef definer,"
                      + " coalesce(p.proacl, acldefault('f', p.proowner))::text[] grants from"
                      + " pg_proc p join pg_namespace n on n.oid = p.pronamespace where"
                      + OURS
                      + "order by n.nspname, 3"),
              Map.entry(
                  "9 default",
                  "select 'default' kind, pg_get_userbyid(d.defaclrole) role, n.nspname schema,"
                      + " d.defaclobjtype type, d.defaclacl::text[] grants from pg_default_acl d"
                      + " left join pg_namespace n on n.oid = d.defaclnamespace order by 2, 3,"
                      + " 4")));

  private DatabaseCollector() {}

  /**
   * Writes everything to {@code out}. The connection's transaction is ended, whatever happens.
   *
   * @return how many lines
   * @throws SQLException when the server drops the connection or refuses more than one catalogue
   */
  public static int collect(Connection connection, Writer out) throws SQLException, IOException {
    connection.setAutoCommit(false);
    connection.setReadOnly(true);
    connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
    int lines = 0;
    try {
      for (Map.Entry<String, String> query : QUERIES.entrySet()) {
        var before = connection.setSavepoint();
        try {
          lines += write(connection, query.getValue(), out);
        } catch (SQLException e) {
          if (!MAY_NOT.equals(e.getSQLState())) {
            throw e;
          }
          connection.rollback(before);
          out.write(unread(query.getKey().substring(2), e));
          lines++;
        }
      }
    } finally {
      if (!connection.isClosed()) {
        connection.rollback();
      }
    }
    return lines;
  }

  private static String unread(String what, SQLException e) {
    ObjectNode node = JSON.createObjectNode();
    node.put("kind", "unread").put("what", what).put("why", e.getMessage());
    return JSON.writeValueAsString(node) + "\n";
  }

  private static int write(Connection connection, String query, Writer out)
      throws SQLException, IOException {
    int lines = 0;
    try (Statement statement = connection.createStatement()) {
      statement.setFetchSize(5000);
      try (ResultSet rows = statement.executeQuery(query)) {
        ResultSetMetaData columns = rows.getMetaData();
        while (rows.next()) {
          ObjectNode node = JSON.createObjectNode();
          for (int i = 1; i <= columns.getColumnCount(); i++) {
            put(node, columns.getColumnLabel(i), columns.getColumnType(i), rows, i);
          }
          out.write(JSON.writeValueAsString(node));
          out.write('\n');
          lines++;
        }
      }
    }
    return lines;
  }

  private static void put(ObjectNode node, String name, int type, ResultSet rows, int column)
      throws SQLException {
    if (type == Types.ARRAY) {
      Array array = rows.getArray(column);
      ArrayNode items = node.putArray(name);
      if (array != null) {
        for (Object item : (Object[]) array.getArray()) {
          items.add(String.valueOf(item));
        }
      }
    } else if (type == Types.BIT || type == Types.BOOLEAN) {
      node.put(name, rows.getBoolean(column));
    } else if (type == Types.INTEGER) {
      node.put(name, rows.getInt(column));
    } else {
      String text = rows.getString(column);
      if (text != null) {
        node.put(name, text);
      }
    }
  }
}
