package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.sources.workspace.SchemaCheck;

/** Outputs and workspace files keep their published schemas. */
class SchemaTest {
  private static final Path SCHEMAS = Path.of(System.getProperty("sober.home"), "docs", "schema");

  @TempDir static Path demo;

  @BeforeAll
  static void write() throws IOException {
    DemoFiles.write(demo);
    Path before = demo.resolve("before");
    DemoFiles.write(before);
    Path doors = before.resolve("assignments/doors.csv");
    Files.writeString(doors, Files.readString(doors).replaceFirst("opener,group,[^\n]*\n", ""));
    for (String which : List.of("certain", "rholm=rhea.jarrow")) {
      String root = demo.toString();
      SoberTest.sober("match", "--accept", which, "--as", "Ilse Brandt", "--workspace", root);
    }
    SoberTest.sober(
        "amend",
        "proposals/leave-approvers.ldif",
        "proposals/two-hands.yaml",
        "--out",
        demo + "/leave",
        "--workspace",
        demo.toString());
  }

  private static List<String> errors(String schema, String json) throws IOException {
    Schema read =
        SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
            .getSchema(
                Files.readString(SCHEMAS.resolve(schema + ".schema.json")), InputFormat.JSON);
    return read.validate(json, InputFormat.JSON).stream().map(Object::toString).toList();
  }

  @ParameterizedTest
  @CsvSource({
    "holdings, show account oskar.lund",
    "accounts, show accounts",
    "memberships, show account lio.harrow --memberships",
    "group, show group vault-leads",
    "role, show role orders frozen",
    "node, show node doors cold-room",
    "roles, roles",
    "holders, holders seedbook:labels:print --below",
    "routes, routes joss.merrin orders:orders:raise",
    "can, can lio.harrow permits:permits:issue",
    "drift, drift",
    "compare, compare accounts edda.voss joss.merrin",
    "compare, compare roles seedbook keeper lender",
    "changes, compare surveys DEMO/before",
    "timeline, compare timeline",
    "findings, findings",
    "findings, findings --seen",
    "expect, expect",
    "fit, fit",
    "preview, preview proposals/two-hands.yaml",
    "preview-accounts, preview proposals/standins.csv --sum account",
    "preview-permissions, preview proposals/standins.csv --sum permission",
    "unpick, unpick ilse.brandt orders:payments:sign",
    "amendment, carry-out DEMO/leave",
    "rehearsal, carry-out DEMO/leave --on workspace",
    "work, carry-out DEMO/leave --on workspace --undo --write",
    "read-back, read-back DEMO/leave",
    "problems, check",
    "trial, trial joss.merrin orders",
    "readiness, trial --all permits",
    "delegations, delegations",
    "can-act, can bostler set-password --on evoss",
    "who-can, holders set-password --on evoss",
    "powers, show powers nlarkin",
    "powers-scope, show powers nlarkin --beside glasshouses",
    "scope, show scope helped",
    "scopes, show scopes",
    "reach, reach desks",
    "powers-named, reach",
    "sides, reach --sides",
    "act-trial, trial nlarkin --act set-password --on wmarsh",
    "access, show access fieldshare /glasshouses/2026 gwick wmarsh",
    "list, show list fieldshare /glasshouses/2024",
    "list, show list fernstore /srv/fernhollow/walks",
    "layers, show layers fieldshare:change /vault/germination bostler mholt",
    "layers, show layers fieldbook:select /fieldbook/loans/loan nils.farrow",
    "tree, show tree fieldshare",
    "tree, show tree fieldbook",
    "survey, survey",
    "surveys, survey list",
    "crosswalk, match fernhollow alderfen",
    "carry-rights, carry fernhollow alderfen",
    "carry-end, carry --end",
    "review-sheets, review who"
  })
  void anAnswerKeepsItsSchema(String schema, String command) throws IOException {
    List<String> args =
        new ArrayList<>(List.of(command.replace("DEMO", demo.toString()).split(" ")));
    args.addAll(List.of("--format", "json", "--workspace", demo.toString()));
    String json = SoberTest.sober(args.toArray(String[]::new)).out();
    assertThat(errors(schema, json)).isEmpty();
    assertThat(json).contains("\"rows\" : [ {");
    assertThat(errors(schema, json.replaceFirst("\"heading\"", "\"headline\""))).isNotEmpty();
  }

  @Test
  void theDemoAndANewWorkspaceKeepTheirs(@TempDir Path fresh) {
    assertThat(SchemaCheck.run(demo).list()).isEmpty();
    SoberTest.sober("begin", fresh.toString());
    assertThat(SchemaCheck.run(fresh).list()).isEmpty();
  }
}
