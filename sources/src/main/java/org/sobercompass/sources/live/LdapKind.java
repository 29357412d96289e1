package org.sobercompass.sources.live;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.LineCount;
import org.sobercompass.sources.LiveSource;
import org.sobercompass.sources.SourceKind;
import org.sobercompass.sources.directory.DirectoryKind;
import org.sobercompass.sources.directory.DirectorySchema;
import org.sobercompass.sources.directory.LdifSource;
import org.sobercompass.sources.directory.Secrets;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;

/** Directories over LDAP, and their exports as LDIF. */
public abstract class LdapKind implements SourceKind {
  private final DirectoryKind kind;

  LdapKind(DirectoryKind kind) {
    this.kind = kind;
  }

  /** Persons and groups as the standards describe them. */
  public static final class Standard extends LdapKind {
    /** The registration. */
    public Standard() {
      super(DirectoryKind.STANDARD);
    }
  }

  /** Accounts and groups of RFC 2307 only. */
  public static final class Posix extends LdapKind {
    /** The registration. */
    public Posix() {
      super(DirectoryKind.POSIX);
    }
  }

  /** Directories as [MS-ADTS] describes them: every object has a list. */
  public static final class Ad extends LdapKind {
    /** The registration. */
    public Ad() {
      super(DirectoryKind.AD);
    }

    @Override
    public Set<String> settings() {
      Set<String> all = new HashSet<>(AccessSettings.KEYS);
      all.addAll(List.of("names", "signed-in-members"));
      return all;
    }

    @Override
    public boolean hasLists() {
      return true;
    }
  }

  @Override
  public final String id() {
    return kind.id();
  }

  @Override
  public Set<String> settings() {
    return AccessSettings.KEYS;
  }

  @Override
  public final boolean hasSchema() {
    return true;
  }

  @Override
  public final String ending() {
    return ".ldif";
  }

  @Override
  public final LineCount count(Path file) {
    return LineCount.ofLdif(file);
  }

  @Override
  public final void withoutSecrets(InputStream in, OutputStream to) throws IOException {
    Secrets.withoutThem(in, to);
  }

  @Override
  public final void read(Entries entries, FactsSource into, Problems problems) {
    source(entries, into, problems).read(entries.path());
  }

  @Override
  public final void readCreated(
      List<Step.Presence> created, Entries entries, FactsSource into, Problems problems) {
    source(entries, into, problems).readCreated(created.stream().map(LdapEntries::of).toList());
  }

  @Override
  public final Optional<Step.Presence> groupLike(
      Entries entries, String directory, String like, String name) {
    return new GroupLike(directory, like, name).read(entries);
  }

  private LdifSource source(Entries entries, FactsSource into, Problems problems) {
    Optional<DirectorySchema> schema =
        entries
            .schema()
            .flatMap(file -> DirectorySchema.read(file, entries.schemaShown(), problems));
    DirectoryKind classes = entries.login().map(kind::withLogin).orElse(kind);
    return new LdifSource(entries.shown(), classes, schema, into, problems);
  }

  @Override
  public final void amend(Wanted wanted, Drafts into) {
    new LdapAmending(wanted, into, kind.equals(DirectoryKind.AD)).make();
  }

  @Override
  public final Optional<LiveSource> live(String name, Node node, Folder root) {
    return AccessSettings.read(name, node, root).map(LdapSource::new);
  }
}
