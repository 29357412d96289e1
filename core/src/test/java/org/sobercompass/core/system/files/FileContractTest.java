package org.sobercompass.core.system.files;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.contract.Sample;
import org.sobercompass.core.contract.SmallFacts;
import org.sobercompass.core.contract.SystemContract;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Trustees;

/**
 * The contract on random trees of files of all three styles, also where a group is perhaps not seen
 * and where a list was not read.
 */
class FileContractTest extends SystemContract {
  private static final int ACCOUNTS = 6;
  private static final int GROUPS = 5;
  private static final int PATHS = 14;

  private final Map<String, NaiveFiles.Listed> lists = new HashMap<>();
  private Optional<NaiveFiles.Listed> share = Optional.empty();

  /** A list in order, and search above it, are each taken as unfavourably as can be. */
  @Override
  protected boolean isExact() {
    return false;
  }

  @Override
  protected Sample sample(long seed) {
    lists.clear();
    share = Optional.empty();
    Random random = new Random(seed);
    FileStyle style = FileStyle.values()[(int) (seed % 3)];
    Facts facts = SmallFacts.of(random, ACCOUNTS, GROUPS);
    FileFacts files = files(facts, style, random);
    FileAccess system =
        new FileAccess(
            new ListedSystem.Definition(
                "x",
                "x",
                SmallFacts.sight(random.nextBoolean()),
                new Admission(facts, false, Set.of(), Optional.empty()),
                List.of()),
            List.of(),
            files,
            facts);
    AccessModel model =
        AccessModel.of(facts, List.of(system), java.time.Instant.EPOCH, Optional.empty());
    NaiveFiles naive =
        new NaiveFiles(style, Map.copyOf(lists), share, system, facts.firstGroup(), ACCOUNTS);
    return Sample.of(model, naive::decide);
  }

  private FileFacts files(Facts facts, FileStyle style, Random random) {
    Trustees.Builder trustees = new Trustees.Builder(facts, facts.implicit(Implicit.EVERYONE));
    for (int a = 0; a < ACCOUNTS; a++) {
      trustees.add(a == 0 ? "u:0" : "u" + a, "u" + a, a);
    }
    for (int g = 0; g < GROUPS; g++) {
      trustees.add("g" + g, "g" + g, facts.firstGroup() + g);
    }
    int stranger = trustees.add("stranger", "stranger", -1);
    boolean open = style == FileStyle.SHARED && random.nextInt(3) == 0;
    if (open) {
      trustees.open(stranger);
      trustees.known(stranger);
    }
    FileFacts.Builder into = new FileFacts.Builder(style, trustees);
    int top = 0;
    String topPath = "";
    if (style.isSearched() && random.nextInt(3) == 0) {
      // A collection that begins below; what is above was not read, and may be said to let pass.
      boolean passed = random.nextBoolean();
      if (passed) {
        into.openAbove();
      }
      lists.put("/", new NaiveFiles.Listed(true, null, null, -1, new int[0], false, passed));
      topPath = "/top";
      top = into.paths().child(0, "top".getBytes(StandardCharsets.UTF_8));
    }
    Map<Integer, String> folders = new HashMap<>(Map.of(top, topPath));
    List<Integer> order = new ArrayList<>(List.of(top));
    put(into, top, topPath.isEmpty() ? "/" : topPath, true, style, random, open);
    for (int p = 1; p < PATHS; p++) {
      int above = order.get(random.nextInt(order.size()));
      String name = "p" + p;
      int node = into.paths().child(above, name.getBytes(StandardCharsets.UTF_8));
      boolean folder = random.nextInt(2) == 0;
      String path = folders.get(above) + "/" + name;
      put(into, node, path, folder, style, random, open);
      if (folder) {
        folders.put(node, path);
        order.add(node);
      }
    }
    if (style == FileStyle.SHARED && random.nextBoolean()) {
      Descriptor made = descriptor(random);
      int[] named = trusteesOf(made, -1, stranger);
      into.share("s", 0, into.shareList(made, named));
      share = Optional.of(new NaiveFiles.Listed(true, made, null, -1, named, open, false));
    }
    return into.build();
  }

  private void put(
      FileFacts.Builder into,
      int node,
      String path,
      boolean folder,
      FileStyle style,
      Random random,
      boolean open) {
    int stranger = 1 + ACCOUNTS + GROUPS;
    boolean read = node == 0 || random.nextInt(12) > 0;
    if (style == FileStyle.POSIX) {
      PosixList.Parts parts = posix(random, 1);
      int list =
          read
              ? into.list(parts.toString() + random.nextLong(), new PosixList(parts))
              : FileFacts.UNREAD;
      into.put(node, folder, list);
      lists.put(
          path,
          new NaiveFiles.Listed(folder, null, read ? parts : null, -1, new int[0], false, false));
      return;
    }
    Descriptor made = descriptor(random);
    int owner = 1 + random.nextInt(ACCOUNTS + GROUPS);
    int[] named = trusteesOf(made, owner, stranger);
    into.put(node, folder, read ? into.list(made, owner, named) : FileFacts.UNREAD);
    lists.put(
        path, new NaiveFiles.Listed(folder, read ? made : null, null, owner, named, open, false));
  }

  private static PosixList.Parts posix(Random random, int superuser) {
    int named = random.nextInt(3);
    int[] users = new int[named];
    int[] groups = new int[named];
    int[] mayUsers = new int[named];
    int[] mayGroups = new int[named];
    for (int i = 0; i < named; i++) {
      users[i] = 2 + (i + named) % (ACCOUNTS - 1);
      groups[i] = 1 + ACCOUNTS + (i * 2 + named) % GROUPS;
      mayUsers[i] = may(random);
      mayGroups[i] = may(random);
    }
    return new PosixList.Parts(
        1 + random.nextInt(ACCOUNTS),
        1 + ACCOUNTS + random.nextInt(GROUPS),
        superuser,
        may(random),
        may(random),
        may(random),
        named > 0 ? random.nextInt(8) : -1,
        random.nextInt(8),
        users,
        mayUsers,
        groups,
        mayGroups,
        List.of(),
        named == 0 && random.nextInt(3) == 0 ? random.nextInt(8) : 0);
  }

  private static int may(Random random) {
    return random.nextInt(8) | (random.nextBoolean() ? 1 : 0);
  }

  private static Descriptor descriptor(Random random) {
    List<Ace> entries = new ArrayList<>();
    AceType[] types = {
      AceType.ALLOW,
      AceType.ALLOW,
      AceType.ALLOW,
      AceType.DENY,
      AceType.ALLOW_CONDITIONAL,
      AceType.DENY_CONDITIONAL,
      AceType.UNKNOWN
    };
    for (int i = random.nextInt(6); i > 0; i--) {
      AceType type = types[random.nextInt(random.nextInt(4) == 0 ? types.length : 4)];
      int mask = random.nextInt(FileRights.FULL + 1) & FileRights.FULL;
      int flags = random.nextInt(4) == 0 ? 0x0b : random.nextInt(4);
      mask = random.nextInt(3) == 0 ? FileRights.FULL : mask;
      boolean ofOwner = random.nextInt(8) == 0;
      String trustee = "t" + random.nextInt(2 + ACCOUNTS + GROUPS);
      entries.add(Ace.of(type, flags, mask, ofOwner ? WellKnown.OWNER_RIGHTS : trustee));
    }
    boolean noList = random.nextInt(15) == 0;
    return new Descriptor(
        random.nextBoolean() ? Descriptor.DACL_PROTECTED : 0,
        Optional.of("owner" + random.nextLong()),
        Optional.empty(),
        noList ? Optional.empty() : Optional.of(entries),
        Optional.empty());
  }

  private static int[] trusteesOf(Descriptor descriptor, int owner, int stranger) {
    return descriptor.entries().stream()
        .map(Ace::trustee)
        .mapToInt(
            trustee ->
                trustee.equals(WellKnown.OWNER_RIGHTS)
                    ? owner
                    : Math.min(Integer.parseInt(trustee.substring(1)), stranger))
        .toArray();
  }
}
