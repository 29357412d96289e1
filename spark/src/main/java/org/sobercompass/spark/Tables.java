package org.sobercompass.spark;

import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.apache.spark.sql.types.DataType;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructType;
import org.sobercompass.report.answers.Dumps;

/** The columns of the answers; texts, and lists of texts. */
final class Tables {
  private static final Set<String> LISTS = Set.of("excluded", "reasons", "accounts");

  static final StructType HOLDINGS = of(Dumps.HOLDINGS);
  static final StructType HOLDERS = of(List.of("account", "login", "state", "reasons"));
  static final StructType SEPARATION = of(List.of("rule", "accounts"));
  static final StructType PEERS = of(List.of("weight", "system", "finding", "accounts"));
  static final StructType DRIFT =
      of(Stream.concat(Stream.of("only_on"), Dumps.HOLDINGS.stream()).toList());

  private Tables() {}

  private static StructType of(List<String> columns) {
    StructType schema = new StructType();
    for (String column : columns) {
      DataType type =
          LISTS.contains(column)
              ? DataTypes.createArrayType(DataTypes.StringType)
              : DataTypes.StringType;
      schema = schema.add(column, type);
    }
    return schema;
  }
}
