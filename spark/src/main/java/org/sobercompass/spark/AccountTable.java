package org.sobercompass.spark;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.RowFactory;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructType;
import org.sobercompass.core.facts.AccountRow;
import scala.collection.Seq;
import scala.jdk.javaapi.CollectionConverters;

/** The table of accounts: one row an account, with the groups that list it. */
final class AccountTable {
  /** The column of what is equal for the accounts of one person. */
  static final String PERSON = "person";

  /** The column of what is equal for peers, null for accounts without any. */
  static final String PEERS = "peers";

  /**
   * The column of whether an account is one of two that stand for the members of a group, where
   * others of it are in other parts.
   */
  static final String COMPANION = "companion";

  /** The column of whether the mapping names an account itself, which then goes to every part. */
  static final String NAMED = "named";

  private static final List<String> TEXTS = List.of("id", "dn", "dn_form", "login", "name", "mail");

  private static final int FIRST_TEXT = 6;
  private static final int REST = FIRST_TEXT + TEXTS.size();

  static final StructType SCHEMA = schema();

  private AccountTable() {}

  private static StructType schema() {
    StructType schema =
        new StructType()
            .add("number", DataTypes.LongType, false)
            .add(PERSON, DataTypes.LongType, false)
            .add(PEERS, DataTypes.StringType, true)
            .add(COMPANION, DataTypes.BooleanType, false)
            .add(NAMED, DataTypes.BooleanType, false)
            .add("directory", DataTypes.StringType, false);
    for (String text : TEXTS) {
      schema = schema.add(text, DataTypes.StringType, false);
    }
    return schema
        .add("flags", DataTypes.IntegerType, false)
        .add("expires", DataTypes.LongType, false)
        .add("password_ends", DataTypes.LongType, false)
        .add("locked_until", DataTypes.LongType, false)
        .add("unit", DataTypes.IntegerType, false)
        .add("groups", DataTypes.createArrayType(DataTypes.IntegerType, false), false)
        .add("vias", DataTypes.BinaryType, false)
        .add(
            "attributes",
            DataTypes.createMapType(
                DataTypes.StringType, DataTypes.createArrayType(DataTypes.StringType, false)),
            false);
  }

  static Row of(AccountRow account, long person, String peers, boolean companion, boolean named) {
    List<Object> cells = new ArrayList<>();
    cells.add(account.number());
    cells.add(person);
    cells.add(peers.isEmpty() ? null : peers);
    cells.add(companion);
    cells.add(named);
    cells.add(account.source());
    cells.addAll(account.texts());
    cells.add(account.flags());
    cells.add(account.expires());
    cells.add(account.passwordEnds());
    cells.add(account.lockedUntil());
    cells.add(account.unit());
    List<Integer> groups = new ArrayList<>();
    for (int group : account.groups()) {
      groups.add(group);
    }
    cells.add(CollectionConverters.asScala(groups).toSeq());
    cells.add(account.vias());
    Map<String, Object> attributes = new TreeMap<>();
    account
        .values()
        .forEach(
            (name, values) -> attributes.put(name, CollectionConverters.asScala(values).toSeq()));
    cells.add(CollectionConverters.asScala(attributes));
    return RowFactory.create(cells.toArray());
  }

  static long person(Row row) {
    return row.getLong(1);
  }

  static AccountRow account(Row row) {
    List<String> texts = new ArrayList<>();
    for (int t = 0; t < TEXTS.size(); t++) {
      texts.add(row.getString(FIRST_TEXT + t));
    }
    int[] groups = row.<Integer>getList(REST + 5).stream().mapToInt(Integer::intValue).toArray();
    Map<String, List<String>> values = new TreeMap<>();
    row.<String, Seq<String>>getJavaMap(REST + 7)
        .forEach((name, own) -> values.put(name, List.copyOf(CollectionConverters.asJava(own))));
    return new AccountRow(
        row.getLong(0),
        row.getString(5),
        texts,
        row.getInt(REST),
        row.getLong(REST + 1),
        row.getLong(REST + 2),
        row.getLong(REST + 3),
        row.getInt(REST + 4),
        groups,
        row.getAs(REST + 6),
        values);
  }
}
