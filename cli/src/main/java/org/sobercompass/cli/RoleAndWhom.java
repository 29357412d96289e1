package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Parameters;

/**
 * A role of an application and for whom, or rights by lists, as the commands that give and withdraw
 * take them.
 */
final class RoleAndWhom {
  @Parameters(
      index = "0",
      paramLabel = "APP",
      description = "the application; or a directory, for its lists")
  String application = "";

  @Parameters(
      index = "1",
      paramLabel = "ROLE",
      description = "the role; of lists rights or admin actions, joined by +")
  String role = "";

  @Parameters(
      index = "2..*",
      arity = "1..*",
      paramLabel = "WHO",
      description = "accounts by name; \"group NAME\", \"unit NAME\", \"implicit everyone\"")
  List<String> whom = new ArrayList<>();
}
