package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Each fault of the demo mended in its file, as its advice says: the finding goes, and nothing else
 * comes. What is not mended by a removal is tried here; see {@link FindingKeyTest} for the others.
 */
class MendTest {
  private static Set<String> before;

  @TempDir static Path demo;

  @BeforeAll
  static void write() {
    DemoFiles.write(demo);
    before = keys(demo);
  }

  private static Set<String> keys(Path root) {
    Workspace workspace = Workspace.open(root);
    List<Finding> found = Findings.of(workspace.assessment(workspace.model()));
    return found.stream().map(f -> f.key().text()).collect(Collectors.toCollection(TreeSet::new));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "applications/ledger.yaml | connection: plain | connection: protected | password-in-clear",
        "applications/fieldshare.yaml | bind: svc-desk-join | bind: nlarkin-reader |"
            + " reading-account-writes",
        "assignments/admin.csv | helper,account,jmerrin,joiners |"
            + " helper,group,glass-coordinators,joiners | inside-own-scope",
        "assignments/admin.csv | helper,account,jmerrin,joiners |"
            + " helper,group,glass-coordinators,joiners | direct-assignment",
        "directory/desks.ldif | O:S-1-5-21-1871-2902-3733-1112G | O:S-1-5-21-1871-2902-3733-512G |"
            + " owner-not-administrator",
        "directory/desks.ldif | -9317) | -1201) | unresolved-trustee",
        "directory/desks.ldif | (OA;;WP;bf9679c0-0de6-11d0-a285-00aa003049e2;;AU) | '' |"
            + " assigned-to-everyone",
        "directory/desks.ldif | (A;CIID;WD;;;S-1-5-21-1871-2902-3733-1201) | '' |"
            + " unsupported-inheritance",
        "directory/desks.ldif | userAccountControl: 66048 | userAccountControl: 512 |"
            + " password-never-expires",
        "assignments/rounds.csv | rounds-relief,grounds | rounds-relief,vault |"
            + " unscoped-assignment",
        "assignments/rounds.csv | volunteers,grounds,2026-09-30 | volunteers,grounds,2027-09-30 |"
            + " expired-assignment",
        "applications/orders.yaml | allows: {payments: sign}\\n"
            + "  frozen | allows: {payments: view}\\n"
            + "  frozen | conflicting-role",
        "registers/rounds.csv | account,gil.wick,directory,yes,no |"
            + " account,gil.wick,directory,yes,yes | powerful-without-second-factor",
        "directory/alderfen.ldif | loginShell: /bin/bash | loginShell: /usr/sbin/nologin |"
            + " service-account-signs-in",
        "directory/alderfen.ldif | authTimestamp: 20260511081500Z | authTimestamp: 20261111081500Z"
            + " | dormant-account",
        "directory/alderfen.ldif | pwdAccountLockedTime: 20261117064800Z | description: let in"
            + " again | locked-account",
        "usage/permits.csv | ivo.beck,permits:issue,,2026-03-04 |"
            + " ivo.beck,permits:issue,,2026-11-04 | unused-rights",
        "usage/permits.csv | hale.thorne,inspections:view | hale.thorne,permits:issue |"
            + " rarely-used-role",
        "applications/doors.yaml | combining: | emergency: [{account: key, tried: 2026-11-01}]\\n"
            + "combining: | no-emergency-account",
        "applications/ledger.yaml | tried: 2025-11-03 | tried: 2026-11-03 |"
            + " emergency-account-untested",
        "applications/notes.yaml | name: Field notes | name: Field notes\\n"
            + "owner: edda.voss | no-owner",
        "compass.yaml | both-sides: [seedbook] | both-sides: [] | power-only-in-directory",
        "compass.yaml | from-anywhere: [desks] | from-anywhere: [] | powerful-from-anywhere",
        "compass.yaml | used-share: 30 | used-share: 30\\n  nesting: 5 | deep-nesting",
        "compass.yaml | at-least: 6 | at-least: 9 | peer-outlier",
        "tasks.csv | spray,spraying,rounds:sprays:plan,inspect,,medium |"
            + " spray,spraying,rounds:sprays:plan,inspect,sol.wick,medium | potential-conflict",
        "assignments/permits.actual.csv | 2026-09-01,,Maren | 2026-09-01,2026-12-31,Maren |"
            + " differs-from-intended",
        "assignments/orders.intended.csv | auditor,group,orders-auditors,trust,Maren Holt,agreed"
            + " with the finance committee\\n"
            + " | '' | intended-not-actual",
        "files/fieldshare.csv | (A;OICI;0x1301bf;;;S-1-5-21-990-4417-2208-1107) |"
            + " (A;OICI;0x1301bf;;;S-1-5-21-1871-2902-3733-1111) | former-id",
        "files/fieldshare.csv |"
            + " (A;OICI;0x1301bf;;;S-1-5-21-1871-2902-3733-1203)(D;OICI;0x6;;;S-1-5-21-1871-2902-3733-1103)"
            + " | (D;OICI;0x6;;;S-1-5-21-1871-2902-3733-1103)(A;OICI;0x1301bf;;;S-1-5-21-1871-2902-3733-1203)"
            + " | entry-order"
      })
  void aFaultThatIsMendedIsNotFoundAndNothingElseIs(
      String file, String from, String to, String kind, @TempDir Path folder) throws IOException {
    Path root = folder.resolve("mended");
    DemoFiles.write(root);
    Path target = root.resolve(file);
    String text = Files.readString(target);
    assertThat(text).contains(from.replace("\\n", "\n"));
    Files.writeString(target, text.replace(from.replace("\\n", "\n"), to.replace("\\n", "\n")));
    Set<String> after = keys(root);
    Set<String> gone = new TreeSet<>(before);
    gone.removeAll(after);
    Set<String> come = new TreeSet<>(after);
    come.removeAll(before);
    assertThat(gone).as(file).anyMatch(key -> key.startsWith("finding:" + kind + "/"));
    assertThat(come).as(file).isEmpty();
  }
}
