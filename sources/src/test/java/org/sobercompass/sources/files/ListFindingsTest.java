package org.sobercompass.sources.files;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.sources.workspace.Workspace;

/** Findings in files and databases: yes, no, and the border between. */
class ListFindingsTest {
  private static final String SID = "S-1-5-21-1-2-3-";
  private static final String MINE = "O:" + SID + "1001";

  @TempDir private Path root;

  private void put(String name, String text) throws IOException {
    Files.writeString(root.resolve(name), text);
  }

  private List<String> found() {
    Workspace workspace = Workspace.open(root);
    return Findings.of(workspace.model(), List.of()).stream()
        .map(Finding::kind)
        .map(kind -> kind.id())
        .toList();
  }

  /** One folder below an open root, and one file in it. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "rwxrwxrwx | --- | rw-r--r-- |  | writable-by-everyone | 1",
        "rwxrwxrwx | --t | rw-r--r-- |  | writable-by-everyone | 0",
        "rwxrwxrwx | --t | rw-rw-rw- |  | writable-by-everyone | 1",
        "rwxrwx--- | --- | rw-rw-rw- |  | writable-by-everyone | 0",
        "rwxrwx--x | --- | rw-rw-rw- |  | writable-by-everyone | 1",
        "rwxrwxrwx | --- | rw-rw-rw- |  | writable-by-everyone | 1",
        "rwxr-xr-x | --- | rw-r--r-- | user:ilse:rw-,mask::r-- | mask-limits-entry | 1",
        "rwxr-xr-x | --- | rw-r--r-- | user:ilse:rw-,mask::rw- | mask-limits-entry | 0",
        "rwxr-xr-x | --- | rw-r--r-- | user:ilse:r--,mask::r-x | mask-limits-entry | 0",
        "rwxr-xr-x | --- | rw-r--r-- | user:ilse:r--,mask::r-x | direct-entry | 1",
        "rwxr-xr-x | --- | rw-r--r-- | group:members:r--,mask::r-x | direct-entry | 0",
        "rwxr-xr-x | --- | rw-r--r-- | user:ilse:---,mask::r-x | direct-entry | 0",
        "rwxr-xr-x | --- | rw-r--r-- | user:4711:r--,mask::r-x | unresolved-trustee | 1",
        "rwxr-xr-x | --- | rw-r--r-- | user:ilse:r--,mask::r-x | unresolved-trustee | 0"
      })
  void ofPosixFiles(String folder, String flags, String file, String more, String kind, int times)
      throws IOException {
    put("host.getent", "root:x:0:0::/:/\nilse:x:1001:100::/:/\nroot:x:0:\nmembers:x:100:\n");
    put(
        "compass.yaml",
        "directories:\n  h: {kind: host, file: host.getent}\napplications: [s.yaml]\n");
    put("s.yaml", "kind: posix-files\nid: s\nlists: t.getfacl\n");
    put(
        "t.getfacl",
        block("/", "rwxr-xr-x", "---", "")
            + block("/d", folder, flags, "")
            + block("/d/f", file, "---", more == null ? "" : more.replace(",", "\n") + "\n"));
    assertThat(found()).filteredOn(kind::equals).hasSize(times);
  }

  private static String block(String path, String mode, String flags, String more) {
    return "# file: "
        + path
        + "\n# owner: root\n# group: root\n# flags: "
        + flags
        + "\nuser::"
        + mode.substring(0, 3)
        + "\ngroup::"
        + mode.substring(3, 6)
        + "\n"
        + more
        + "other::"
        + mode.substring(6)
        + "\n\n";
  }

  /** The list of a folder, of a file in it, and of the share in front. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "D:P(A;OICI;FA;;;ME) | D:(A;ID;FA;;;ME) | FA | unsupported-inheritance | 0",
        "D:P(A;OICI;FA;;;ME) | D:(A;ID;FA;;;ME)(A;ID;FR;;;AU) | FA | unsupported-inheritance | 1",
        "D:P(A;OICI;FA;;;ME) | D:(A;ID;FA;;;ME)(A;;FR;;;AU) | FA | unsupported-inheritance | 0",
        "D:P(A;CI;FA;;;ME) | D:(A;ID;FA;;;ME) | FA | unsupported-inheritance | 1",
        "D:P(A;OICI;FA;;;ME)(A;OICI;FR;;;AU) | D:(A;ID;FA;;;ME) | FA | inheritance-not-applied | 1",
        "D:P(A;OICI;FA;;;ME)(A;OICI;FR;;;AU) | D:P(A;;FA;;;ME) | FA | inheritance-not-applied | 0",
        "D:P(A;OICI;FA;;;ME)(A;CI;FR;;;AU) | D:(A;ID;FA;;;ME) | FA | inheritance-not-applied | 0",
        "D:P(A;OICI;0x1301bf;;;ME) | D:(A;ID;0x1301bf;;;ME) | 0x1200a9 | share-and-files-disagree |"
            + " 1",
        "D:P(A;OICI;0x1301bf;;;ME) | D:(A;ID;0x1301bf;;;ME) | 0x1301bf | share-and-files-disagree |"
            + " 0",
        "D:P(A;OICI;0x1200a9;;;ME) | D:(A;ID;0x1200a9;;;ME) | 0x1200a9 | share-and-files-disagree |"
            + " 0",
        "D:P(A;OICI;0x1301ff;;;WD) | D:P(A;;FA;;;ME) | FA | broken-inheritance | 1",
        "D:P(A;OICI;0x1301bf;;;WD) | D:P(A;;FA;;;ME) | FA | broken-inheritance | 0",
        "D:P(A;OICI;0x1301ff;;;WD) | D:P(A;;FA;;;WD) | FA | broken-inheritance | 0",
        "D:P(A;OICI;0x6;;;WD) | D:(A;ID;0x6;;;WD) | FA | writable-by-everyone | 1",
        "D:P(A;OICI;0x6;;;WD) | D:(A;ID;0x6;;;WD) | 0x1200a9 | writable-by-everyone | 0",
        "D:P(D;OICI;0x6;;;WD)(A;OICI;0x6;;;WD) | D:P(A;;FR;;;ME) | FA | writable-by-everyone | 0",
        "D:P(A;OICI;FR;;;S-1-5-21-1-2-3-9) | D:(A;ID;FR;;;S-1-5-21-1-2-3-9) | FA |"
            + " unresolved-trustee | 1",
        "D:P(A;OICI;FR;;;SY) | D:(A;ID;FR;;;SY) | FA | unresolved-trustee | 0"
      })
  void ofSharedFolders(String folder, String file, String share, String kind, int times)
      throws IOException {
    put(
        "x.ldif",
        "version: 1\n\ndn: cn=me,dc=x\nobjectClass: user\nsAMAccountName: me\nobjectSid: "
            + SID
            + "1001\n");
    put("compass.yaml", "directories:\n  x: {kind: ad, file: x.ldif}\napplications: [s.yaml]\n");
    put(
        "s.yaml",
        "kind: shared-files\nid: s\nlists: l.csv\nshares:\n  - {name: n, path: /, list: \"D:(A;;"
            + share
            + ";;;WD)\"}\n");
    put("l.csv", "path,kind,list\n/,folder," + sid(folder) + "\n/f,file," + sid(file) + "\n");
    assertThat(found()).filteredOn(kind::equals).hasSize(times);
  }

  private static String sid(String list) {
    return MINE + list.replace(";;;ME)", ";;;" + SID + "1001)");
  }

  /** Grants on a schema and on a table in it, to PUBLIC (empty) and to the role r. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "=U/o | =r/o | public-rights | 1",
        "=U/o | r=r/o | public-rights | 0",
        "=UC/o | r=r/o | public-rights | 1",
        "r=U/o | r=r/o | grant-without-effect | 0",
        "o=UC/o | r=r/o | grant-without-effect | 1",
        "o=UC/o | o=r/o | grant-without-effect | 0",
        "o=UC/o | =r/o | grant-without-effect | 0"
      })
  void ofDatabases(String schema, String table, String kind, int times) throws IOException {
    put(
        "compass.yaml",
        "directories:\n  d: {kind: postgresql, file: d.jsonl}\napplications: [d.yaml]\n");
    put("d.yaml", "kind: postgresql\nid: d\ncollection: d.jsonl\n");
    put(
        "d.jsonl",
        role("o")
            + role("r")
            + "{\"kind\":\"database\",\"name\":\"d\",\"owner\":\"o\",\"open\":true,\"grants\":[\"=Tc/o\"]}\n"
            + "{\"kind\":\"schema\",\"name\":\"s\",\"owner\":\"o\",\"grants\":[\""
            + schema
            + "\"]}\n"
            + "{\"kind\":\"relation\",\"schema\":\"s\",\"name\":\"t\",\"type\":\"r\",\"owner\":\"o\","
            + "\"grants\":[\""
            + table
            + "\"]}\n");
    assertThat(found()).filteredOn(kind::equals).hasSize(times);
  }

  private static String role(String name) {
    return "{\"kind\":\"role\",\"name\":\"" + name + "\",\"inherits\":true,\"login\":true}\n";
  }

  /** A role that is in another: whether it inherits, and what the other is. */
  @ParameterizedTest
  @CsvSource({
    "true, false, false, can-switch-role, 0",
    "false, false, false, can-switch-role, 1",
    "true, false, true, superuser-by-membership, 1",
    "false, false, true, superuser-by-membership, 1",
    "true, true, true, superuser-by-membership, 0",
    "false, true, false, can-switch-role, 0"
  })
  void ofRolesThatMaySwitch(
      boolean inherits, boolean superuser, boolean other, String kind, int times)
      throws IOException {
    put(
        "compass.yaml",
        "directories:\n  d: {kind: postgresql, file: d.jsonl}\napplications: [d.yaml]\n");
    put("d.yaml", "kind: postgresql\nid: d\ncollection: d.jsonl\n");
    put(
        "d.jsonl",
        "{\"kind\":\"role\",\"name\":\"m\",\"inherits\":"
            + inherits
            + ",\"superuser\":"
            + superuser
            + ",\"login\":true}\n{\"kind\":\"role\",\"name\":\"s\",\"inherits\":true,\"superuser\":"
            + other
            + "}\n"
            + "{\"kind\":\"member\",\"role\":\"s\",\"member\":\"m\",\"admin\":false}\n"
            + "{\"kind\":\"database\",\"name\":\"d\",\"owner\":\"s\",\"open\":true,\"grants\":[]}\n");
    assertThat(found()).filteredOn(kind::equals).hasSize(times);
  }

  /** Five folders beside each other, of which as many as given are open to all. */
  @ParameterizedTest
  @CsvSource({"1, '', 1", "2, '', 0", "0, '', 0", "5, '', 0", "5, /d3, 1", "0, /d3, 0"})
  void aPlaceThatIsNamedOrStandsOutIsReadableByEveryone(int open, String named, int times)
      throws IOException {
    put("host.getent", "root:x:0:0::/:/\nilse:x:1001:100::/:/\nroot:x:0:\nmembers:x:100:\n");
    put(
        "compass.yaml",
        "directories:\n  h: {kind: host, file: host.getent}\napplications: [s.yaml]\n"
            + (named.isEmpty() ? "" : "findings: {sensitive: ['s:" + named + "']}\n"));
    put("s.yaml", "kind: posix-files\nid: s\nlists: t.getfacl\n");
    StringBuilder tree = new StringBuilder(block("/", "rwxr-xr-x", "---", ""));
    for (int i = 1; i <= 5; i++) {
      tree.append(block("/d" + i, i <= open ? "rwxr-xr-x" : "rwxr-x---", "---", ""));
      tree.append(block("/d" + i + "/f", "rw-r-----", "---", ""));
    }
    put("t.getfacl", tree.toString());
    Workspace workspace = Workspace.open(root);
    assertThat(Findings.of(workspace.assessment(workspace.model())))
        .extracting(finding -> finding.kind().id())
        .filteredOn("readable-by-everyone"::equals)
        .hasSize(times);
  }
}
