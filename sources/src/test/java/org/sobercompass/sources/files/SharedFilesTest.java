package org.sobercompass.sources.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.descriptor.DescriptorCodec;
import org.sobercompass.sources.workspace.Workspace;

/** Shared folders, as a workspace reads them. */
class SharedFilesTest {
  private static final String SID = "S-1-5-21-1-2-3-";

  @TempDir private Path root;

  @BeforeEach
  void write() throws IOException {
    put(
        "x.ldif",
        "version: 1\n\ndn: cn=ilse,dc=x\nobjectClass: user\nsAMAccountName: ilse\nobjectSid: "
            + SID
            + "1001\n\ndn: cn=dag,dc=x\nobjectClass: user\nsAMAccountName: dag\nobjectSid: "
            + SID
            + "1002\n\ndn: cn=notes,dc=x\nobjectClass: group\nsAMAccountName: notes\nobjectSid: "
            + SID
            + "2001\nmember: cn=ilse,dc=x\n");
    put("compass.yaml", "directories:\n  x: {kind: ad, file: x.ldif}\napplications: [s.yaml]\n");
    app("");
  }

  private void put(String name, String text) throws IOException {
    Files.writeString(root.resolve(name), text);
  }

  private void app(String more) throws IOException {
    put("s.yaml", "kind: shared-files\nid: s\nlists: lists.csv\n" + more);
  }

  private void lists(String... rows) throws IOException {
    put("lists.csv", "path,kind,list\n" + String.join("\n", rows) + "\n");
  }

  private Verdict ask(String login, String path, String right) {
    AccessModel model = Workspace.open(root).model();
    SystemView view = model.system("s").orElseThrow();
    int account = NameResolver.find(model.facts(), SubjectKind.ACCOUNT, login).get(0);
    return model
        .asker()
        .decide(
            view,
            account,
            Question.of(
                view.resources().find(path).orElseThrow(),
                view.rights().find(right).orElseThrow()));
  }

  @Test
  void whatShareAndFileBothAllowIsAllowed() throws IOException {
    lists("/,folder,\"O:SYD:P(A;OICI;FA;;;" + SID + "2001)(A;OICI;0x1200a9;;;WD)\"");
    app("shares:\n  - {name: n, path: /, list: \"D:(A;;0x1301bf;;;AU)\"}\n");
    assertThat(ask("ilse", "/", "change")).isEqualTo(Verdict.YES);
    assertThat(ask("ilse", "/", "full")).isEqualTo(Verdict.NO);
    assertThat(ask("dag", "/", "change")).isEqualTo(Verdict.NO);
    assertThat(ask("dag", "/", "read")).isEqualTo(Verdict.YES);
  }

  @Test
  void twoSharesAreTwoWaysThatDoNotAddUp() throws IOException {
    lists("/,folder,\"O:SYD:P(A;OICI;FA;;;WD)\"");
    app(
        "shares:\n  - {name: r, path: /, list: \"D:(A;;0x1200a9;;;WD)\"}\n"
            + "  - {name: w, path: /, list: \"D:(A;;0x110116;;;WD)\"}\n");
    assertThat(ask("dag", "/", "read")).isEqualTo(Verdict.YES);
    assertThat(ask("dag", "/", "write-data")).isEqualTo(Verdict.YES);
    assertThat(ask("dag", "/", "change")).isEqualTo(Verdict.NO);
  }

  @Test
  void aListThatIsNotThereLetsAllInAndAnEmptyOneNobodyButTheOwner() throws IOException {
    lists(
        "/,folder,\"O:SYD:P\"",
        "/all,file,\"O:SYD:NO_ACCESS_CONTROL\"",
        "/none,file,\"O:" + SID + "1002D:P\"");
    assertThat(ask("dag", "/all", "full")).isEqualTo(Verdict.YES);
    assertThat(ask("ilse", "/none", "read-permissions")).isEqualTo(Verdict.NO);
    assertThat(ask("dag", "/none", "change-permissions")).isEqualTo(Verdict.YES);
    assertThat(ask("dag", "/none", "read-data")).isEqualTo(Verdict.NO);
  }

  @Test
  void aGroupOfTheFileServerIsUndecidedUntilItsMembersAreSaid() throws IOException {
    lists("/,folder,\"O:SYD:P(A;OICI;FA;;;BU)\"");
    assertThat(ask("dag", "/", "read")).isEqualTo(Verdict.UNDECIDED);
    assertThat(Workspace.open(root).problems().stream().map(Problem::toString))
        .anySatisfy(p -> assertThat(p).contains("is a group of the file server"));
    app("local-groups:\n  S-1-5-32-545: [group:notes]\n");
    assertThat(ask("dag", "/", "read")).isEqualTo(Verdict.NO);
    assertThat(ask("ilse", "/", "read")).isEqualTo(Verdict.YES);
  }

  @Test
  void theBinaryFormSaysTheSame() throws IOException, MalformedException {
    byte[] binary =
        DescriptorCodec.write(
            Sddl.read("O:SYD:P(A;;0x1200a9;;;" + SID + "1002)", Optional.empty()));
    lists("/,folder," + Base64.getEncoder().encodeToString(binary));
    assertThat(ask("dag", "/", "read")).isEqualTo(Verdict.YES);
    assertThat(ask("ilse", "/", "read")).isEqualTo(Verdict.NO);
  }

  @Test
  void jsonLinesSayTheSame() throws IOException {
    put("lists.jsonl", "{\"path\":\"\\\\a\\\\b\",\"kind\":\"file\",\"list\":\"D:(A;;FA;;;WD)\"}\n");
    put("s.yaml", "kind: shared-files\nid: s\nlists: lists.jsonl\n");
    assertThat(ask("dag", "/a/b", "read")).isEqualTo(Verdict.YES);
    put("lists.jsonl", "{\"path\":\"/a\",\"list\":\n");
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("lists.jsonl:1");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "D:(A;;QQ;;;WD) | column 7",
        "D:(A;;FA;;;WD | column",
        "AQAEgBQ= | byte",
        "%%% | neither SDDL nor base64",
        "'' | there is no list",
        "O:SYG:SY | there is no list"
      })
  void aListThatCannotBeReadLeavesItsPathUndecidedAndIsTold(String list, String what)
      throws IOException {
    lists("/,folder,\"" + list + "\"");
    assertThat(ask("dag", "/", "read")).isEqualTo(Verdict.UNDECIDED);
    assertThat(Workspace.open(root).problems().stream().map(Problem::toString))
        .anySatisfy(p -> assertThat(p).contains("lists.csv:2").contains(what));
  }

  @Test
  void pathsThatLeadOutOfTheTreeAndKindsThatAreNoneAreTold() throws IOException {
    lists("..\\\\up,file,\"D:(A;;FA;;;WD)\"", "/a,fiel,\"D:(A;;FA;;;WD)\"");
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("leads out of its tree")
        .hasMessageContaining("neither folder nor file")
        .hasMessageContaining("did you mean file?");
  }
}
