package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Parameters;

/** A role of an application and for whom, as the commands that give and withdraw it take them. */
final class RoleAndWhom {
  @Parameters(index = "0", paramLabel = "APP", description = "the application")
  String application = "";

  @Parameters(index = "1", paramLabel = "ROLE", description = "the role")
  String role = "";

  @Parameters(
      index = "2..*",
      arity = "1..*",
      paramLabel = "WHO",
      description = "accounts by name; \"group NAME\", \"unit NAME\", \"implicit everyone\"")
  List<String> whom = new ArrayList<>();
}
