package org.sobercompass.sources.files;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.files.FileAccess;
import org.sobercompass.core.system.files.FileFacts;
import org.sobercompass.core.system.files.FileStyle;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.Ids;
import org.sobercompass.sources.SightReader;
import org.sobercompass.sources.SystemFormat;
import org.sobercompass.sources.text.Node;

/** The registration of files of one style; docs/files.md describes the file. */
public abstract class FileFormat implements SystemFormat {
  private static final Set<String> KEYS =
      Set.of(
          "kind",
          "id",
          "name",
          "owner",
          "owners",
          "sight",
          "lists",
          "administrators",
          "waste-bin",
          "above",
          "folders");
  private static final Set<String> SHARED_KEYS =
      Set.of(
          "kind",
          "id",
          "name",
          "owner",
          "owners",
          "sight",
          "lists",
          "administrators",
          "waste-bin",
          "shares",
          "local-groups",
          "domain");

  private final FileStyle style;

  /** For files of this style. */
  FileFormat(FileStyle style) {
    this.style = style;
  }

  /** Files behind shares. */
  public static final class Shared extends FileFormat {
    /** The registration. */
    public Shared() {
      super(FileStyle.SHARED);
    }
  }

  /** Files with NFSv4 lists. */
  public static final class Nfs4 extends FileFormat {
    /** The registration. */
    public Nfs4() {
      super(FileStyle.NFS4);
    }
  }

  /** Files with 1003.1e lists. */
  public static final class Posix extends FileFormat {
    /** The registration. */
    public Posix() {
      super(FileStyle.POSIX);
    }
  }

  @Override
  public String kind() {
    return style.kind();
  }

  @Override
  public Set<String> needs(Node file, Problems problems) {
    Set<String> needs = new TreeSet<>(HostLimits.NEEDS);
    needs.addAll(
        style == FileStyle.SHARED
            ? Set.of(SidNames.SID, SidNames.HISTORY)
            : Set.of(PosixNames.UID, PosixNames.GID));
    file.get("sight").ifPresent(sight -> needs.addAll(SightReader.read(sight, problems).needs()));
    return needs;
  }

  @Override
  public List<String> files(Node file) {
    List<String> files = new ArrayList<>(file.texts("lists"));
    files.addAll(file.texts("folders"));
    return files;
  }

  @Override
  public AccessSystem read(Node file, Context context) {
    file.only(style == FileStyle.SHARED ? SHARED_KEYS : KEYS);
    String id = Ids.check(file.need("id"), file, context.problems());
    Sight sight = sight(file, context);
    if (file.texts("lists").isEmpty()) {
      file.wrong("there are no lists", "lists: and a file with paths and their lists");
    }
    Loaded loaded =
        style == FileStyle.SHARED ? shared(file, sight, context) : posix(file, sight, context);
    var admission = new Admission(context.facts(), false, Set.of(), Optional.empty());
    String name = file.text("name").orElse(id);
    return new FileAccess(
        new ListedSystem.Definition(id, name, sight, admission, origins(file)),
        loaded.administrators,
        loaded.facts,
        context.facts());
  }

  @Override
  public void amend(Wanted wanted, Drafts into) {
    ListAmending amending =
        new ListAmending((FileAccess) wanted.system(), wanted.gone(), wanted.come(), into);
    if (style == FileStyle.POSIX) {
      amending.posix(wanted.root());
    } else {
      amending.whole((FileAccess) wanted.then());
    }
  }

  private static List<String> origins(Node file) {
    List<String> origins = new ArrayList<>(file.texts("lists"));
    origins.add(file.place().file());
    return origins;
  }

  private record Loaded(FileFacts facts, List<Integer> administrators) {}

  /**
   * As the systems count memberships unless the workspace says otherwise: tokens of [MS-DTYP] hold
   * nested security groups, POSIX systems know direct members and primary groups only. Who has no
   * number or SID is nobody to them.
   */
  private Sight sight(Node file, Context context) {
    Sight sight = SightReader.of(file, context);
    boolean shared = style == FileStyle.SHARED;
    boolean said = file.get("sight").flatMap(s -> s.get("nesting")).isPresent();
    Set<Via> counts =
        shared
            ? Set.of(Via.MEMBER, Via.PRIMARY, Via.IMPLICIT)
            : Set.of(Via.MEMBER, Via.UNIQUE_MEMBER, Via.MEMBER_UID, Via.PRIMARY, Via.IMPLICIT);
    int nesting = said ? sight.profile().nesting() : shared ? MembershipProfile.FULL : 0;
    Sight counted = sight.with(new MembershipProfile(counts, nesting, false));
    return counted.loginAttribute().isPresent()
        ? counted
        : counted.withLogin(shared ? SidNames.SID : PosixNames.UID);
  }

  private Loaded posix(Node file, Sight sight, Context context) {
    PosixNames names = new PosixNames(context.facts(), sight);
    FileFacts.Builder into = new FileFacts.Builder(style, names.trustees());
    TreeMarks.above(file, into);
    for (String name : file.texts("lists")) {
      Path path = context.root().resolve(name);
      if (style == FileStyle.POSIX) {
        new GetfaclReader(name, names, into, context.problems()).read(path);
      } else {
        new Nfs4Reader(name, names, into, context.problems()).read(path);
      }
      names.tell(name, context.problems());
    }
    for (String name : file.texts("folders")) {
      TreeMarks.folders(context.root().resolve(name), name, into, context.problems());
    }
    List<Integer> administrators = new ArrayList<>();
    for (String admin : file.texts("administrators")) {
      boolean group = admin.startsWith("group:");
      administrators.add(
          group ? names.group(admin.substring(6)) : names.user(admin.replace("user:", "")));
    }
    if (!administrators.isEmpty()) {
      administrators.add(names.user("0"));
      names.tell(file.place().file(), context.problems());
    }
    TreeMarks.wasteBins(file, into);
    FileFacts built = into.build();
    missingAbove(built, file, context.problems());
    return new Loaded(built, administrators);
  }

  private void missingAbove(FileFacts built, Node file, Problems problems) {
    List<String> missing = built.missingAbove();
    if (missing.isEmpty()) {
      return;
    }
    String tool = style == FileStyle.POSIX ? "getfacl -p" : "nfs4_getfacl";
    String shown = String.join(" ", missing.subList(0, Math.min(5, missing.size())));
    problems.warning(
        file.get("lists").orElse(file).place(),
        "the lists of "
            + (missing.size() == 1 ? "the folder " : missing.size() + " folders ")
            + "above what was collected are missing: "
            + shown
            + (missing.size() > 5 ? " and more" : "")
            + "; who gets through them to what is below is undecided",
        "their lists too ("
            + tool
            + " "
            + shown
            + "), or above: open, if everybody may pass through them");
  }

  private Loaded shared(Node file, Sight sight, Context context) {
    SidNames names = new SidNames(context.facts(), sight, localGroups(file, context));
    FileFacts.Builder into = new FileFacts.Builder(style, names.trustees());
    Optional<String> domain = file.text("domain");
    for (String name : file.texts("lists")) {
      new SharedReader(name, domain, names, into, context.problems())
          .read(context.root().resolve(name));
    }
    for (Node share : file.get("shares").map(Node::items).orElse(List.of())) {
      share(share.only(Set.of("name", "path", "list")), domain, names, into, context);
    }
    List<Integer> administrators = new ArrayList<>();
    for (String admin : file.texts("administrators")) {
      administrators.add(administrator(admin, file, names, context));
    }
    if (!administrators.isEmpty()) {
      for (String always : List.of("S-1-5-18", "S-1-5-32-544")) {
        administrators.add(Math.max(names.trustees().find(always), Trustees.EVERYONE));
      }
    }
    administrators.removeIf(trustee -> trustee == Trustees.EVERYONE);
    names.tell(file.place(), context.problems());
    TreeMarks.wasteBins(file, into);
    return new Loaded(into.build(), administrators);
  }

  private static int administrator(String text, Node file, SidNames names, Context context) {
    if (text.startsWith("S-1-")) {
      return names.trustee(text);
    }
    int subject = subject(text, file.get("administrators").orElse(file), context);
    List<String> sids = subject < 0 ? List.of() : context.facts().values(subject, SidNames.SID);
    return sids.isEmpty() ? Trustees.EVERYONE : names.trustee(sids.get(0));
  }

  private static int subject(String text, Node node, Context context) {
    boolean group = text.startsWith("group:");
    String name = text.replaceFirst("^(group|account):", "");
    return context
        .names()
        .resolve(group ? SubjectKind.GROUP : SubjectKind.ACCOUNT, name, node.place());
  }

  private static Map<String, List<Integer>> localGroups(Node file, Context context) {
    Map<String, List<Integer>> groups = new LinkedHashMap<>();
    file.get("local-groups")
        .ifPresent(
            node ->
                node.entries()
                    .forEach(
                        (sid, members) -> {
                          List<Integer> subjects = new ArrayList<>();
                          for (String member : node.texts(sid)) {
                            subjects.add(member(member, members, context));
                          }
                          subjects.removeIf(s -> s < 0);
                          groups.put(sid, subjects);
                        }));
    return groups;
  }

  private static int member(String text, Node node, Context context) {
    if (text.equals("everyone") || text.equals("signed-in")) {
      return context.names().resolve(SubjectKind.IMPLICIT, text, node.place());
    }
    return subject(text, node, context);
  }

  private void share(
      Node share,
      Optional<String> domain,
      SidNames names,
      FileFacts.Builder into,
      Context context) {
    SharedReader reader = new SharedReader("", domain, names, into, context.problems());
    String text = share.need("list");
    Place place = share.get("list").map(Node::place).orElse(share.place());
    Optional<Descriptor> list = reader.parse(text, place);
    int number = list.map(d -> into.shareList(d, reader.trustees(d, -1))).orElse(FileFacts.UNREAD);
    into.share(share.need("name"), into.paths().path(share.text("path").orElse("/")), number);
  }
}
