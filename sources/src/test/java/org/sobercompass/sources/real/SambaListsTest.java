package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.core.system.files.FileRights;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Samba's access check library decides over random descriptors: each account, each right and group
 * of rights, behind a share's list and without one.
 */
class SambaListsTest {
  private static final String DOMAIN = "S-1-5-21-1-2-3-";
  private static final int ACCOUNTS = 24;
  private static final int GROUPS = 10;
  private static final int LISTS = 160;
  private static final int[] BITS = {
    0x1,
    0x2,
    0x4,
    0x8,
    0x10,
    0x20,
    0x40,
    0x80,
    0x100,
    0x1_0000,
    0x2_0000,
    0x4_0000,
    0x8_0000,
    0x10_0000,
    FileRights.READ,
    FileRights.CHANGE,
    FileRights.FULL
  };

  @TempDir private Path folder;
  private final Random random = new Random(23);
  private final List<Set<Integer>> groupsOf = new ArrayList<>();

  @Test
  void sambasAccessCheckDecidesTheSame() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/python3")), "needs python3-samba");
    assumeTrue(Files.isExecutable(Path.of("/usr/sbin/samba")), "needs samba");
    StringBuilder ldif = new StringBuilder("version: 1\n\n");
    directory(ldif);
    List<String> lists = new ArrayList<>();
    for (int i = 0; i < LISTS; i++) {
      lists.add(descriptor());
    }
    String share =
        "D:(A;;0x1f01ff;;;" + DOMAIN + "2001)(D;;0x30002;;;" + DOMAIN + "2002)(A;;0x1301bf;;;WD)";
    AccessModel model = model(ldif, lists, share);
    List<Integer> granted = granted(lists, share);
    List<String> different = new ArrayList<>();
    int decisions = 0;
    Asker asker = model.asker();
    for (int a = 0; a < ACCOUNTS; a++) {
      int account = NameResolver.find(model.facts(), SubjectKind.ACCOUNT, "a" + a).get(0);
      int throughShare = granted.get(a * (LISTS + 1) + LISTS);
      for (int l = 0; l < LISTS; l++) {
        int file = granted.get(a * (LISTS + 1) + l);
        for (String system : List.of("bare", "shared")) {
          SystemView view = model.system(system).orElseThrow();
          int mask = system.equals("bare") ? file : file & throughShare;
          int resource = view.resources().find("/f" + l).orElseThrow();
          for (int right = 0; right < view.rights().size(); right++) {
            int need = need(view.rights().text(right));
            boolean known =
                asker.decide(view, account, Question.of(resource, right)) == Verdict.YES;
            decisions++;
            if (known != ((mask & need) == need)) {
              different.add(
                  system
                      + " a"
                      + a
                      + groupsOf.get(a)
                      + " ours: "
                      + known
                      + " "
                      + view.rights().text(right)
                      + " "
                      + lists.get(l));
            }
          }
        }
      }
    }
    System.out.println("Samba's access check agrees on " + decisions + " decisions.");
    assertThat(different).isEmpty();
    assertThat(decisions).isGreaterThan(100_000);
  }

  private static int need(String right) {
    List<String> names =
        List.of(
            "read-data",
            "write-data",
            "append-data",
            "read-named-attributes",
            "write-named-attributes",
            "execute",
            "delete-child",
            "read-attributes",
            "write-attributes",
            "delete",
            "read-permissions",
            "change-permissions",
            "take-ownership",
            "synchronize",
            "read",
            "change",
            "full");
    return BITS[names.indexOf(right)];
  }

  private void directory(StringBuilder ldif) {
    for (int a = 0; a < ACCOUNTS; a++) {
      Set<Integer> groups = new TreeSet<>();
      for (int g = 0; g < GROUPS; g++) {
        if (random.nextInt(4) == 0) {
          groups.add(g);
        }
      }
      groupsOf.add(groups);
      ldif.append("dn: cn=a" + a + ",dc=x\nobjectClass: user\nsAMAccountName: a" + a);
      ldif.append("\nobjectSid: " + DOMAIN + (1000 + a) + "\n\n");
    }
    for (int g = 0; g < GROUPS; g++) {
      ldif.append("dn: cn=g" + g + ",dc=x\nobjectClass: group\nsAMAccountName: g" + g);
      ldif.append("\nobjectSid: " + DOMAIN + (2000 + g) + "\n");
      for (int a = 0; a < ACCOUNTS; a++) {
        if (groupsOf.get(a).contains(g)) {
          ldif.append("member: cn=a" + a + ",dc=x\n");
        }
      }
      ldif.append("\n");
    }
  }

  /** In any order, with owner rights, inherit-only entries and lists that are not there. */
  private String descriptor() {
    StringBuilder text = new StringBuilder("O:" + trustee(false) + "G:" + DOMAIN + "2000");
    text.append("D:");
    for (int e = random.nextInt(7); e >= 0; e--) {
      int mask = 0;
      for (int i = random.nextInt(5); i >= 0; i--) {
        mask |= BITS[random.nextInt(BITS.length)];
      }
      String flags = random.nextInt(6) == 0 ? "OICIIO" : random.nextInt(3) == 0 ? "OICI" : "";
      text.append(random.nextInt(4) == 0 ? "(D;" : "(A;").append(flags);
      text.append(";0x" + Integer.toHexString(mask) + ";;;" + trustee(true) + ")");
    }
    return text.toString();
  }

  private String trustee(boolean any) {
    int kind = random.nextInt(any ? 8 : 5);
    return switch (kind) {
      case 5 -> "WD";
      case 6 -> "AU";
      case 7 -> random.nextBoolean() ? "OW" : "S-1-5-21-1-2-3-9234";
      case 0, 1 -> DOMAIN + (1000 + random.nextInt(ACCOUNTS));
      default -> DOMAIN + (2000 + random.nextInt(GROUPS));
    };
  }

  private AccessModel model(StringBuilder ldif, List<String> lists, String share)
      throws IOException {
    Files.writeString(folder.resolve("x.ldif"), ldif);
    StringBuilder csv = new StringBuilder("path,kind,list\n/,folder,\"O:BAD:P\"\n");
    for (int l = 0; l < lists.size(); l++) {
      csv.append("/f" + l + ",file,\"" + lists.get(l) + "\"\n");
    }
    Files.writeString(folder.resolve("lists.csv"), csv);
    String same = "kind: shared-files\nlists: lists.csv\nlocal-groups: {S-1-5-32-544: []}\n";
    Files.writeString(folder.resolve("bare.yaml"), same + "id: bare\n");
    Files.writeString(
        folder.resolve("shared.yaml"),
        same + "id: shared\nshares:\n  - {name: all, path: /, list: \"" + share + "\"}\n");
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  x: {kind: ad, file: x.ldif}\napplications: [bare.yaml, shared.yaml]\n");
    return Workspace.open(folder).model();
  }

  /** For each account what each list grants at most, and last the share's. */
  private List<Integer> granted(List<String> lists, String share)
      throws IOException, InterruptedException {
    StringBuilder asked = new StringBuilder();
    for (int a = 0; a < ACCOUNTS; a++) {
      StringBuilder sids = new StringBuilder(DOMAIN + (1000 + a) + ",S-1-1-0,S-1-5-11");
      groupsOf.get(a).forEach(g -> sids.append("," + DOMAIN + (2000 + g)));
      for (String list : lists) {
        asked.append(list + "\t" + sids + "\n");
      }
      asked.append("O:SY" + share + "\t" + sids + "\n");
    }
    Path questions = Files.writeString(folder.resolve("questions"), asked);
    Path script = folder.resolve("descriptors.py");
    try (var in = SambaListsTest.class.getResourceAsStream("descriptors.py")) {
      Files.write(script, in.readAllBytes());
    }
    Process process =
        new ProcessBuilder("/usr/bin/python3", script.toString(), questions.toString())
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    String answers = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor()).isZero();
    return answers.lines().map(Integer::valueOf).toList();
  }
}
