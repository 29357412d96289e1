package org.sobercompass.sources.files;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.Standing;

/**
 * A tree of files on this machine whose lists are changed with the system's own tools. The kernel
 * has no way to change a list only if it is still the same: it is read and compared just before.
 */
final class PosixTarget extends HostTarget {
  /** What the tools come with. */
  private static final String PACKAGE = "acl";

  private final Path root;

  PosixTarget(Path root) {
    super("this machine, below " + root);
    this.root = root;
  }

  /** The path as the tools read it: with octal escapes. */
  private String path(AmendmentRecord record) {
    String below = record.place().equals("/") ? "" : record.place();
    String above = root.toString().equals("/") ? "" : root.toString().replace("\\", "\\134");
    return above + below;
  }

  /** The list as it is now; what has no name here is told by its number all the same. */
  private Optional<String> now(AmendmentRecord record, boolean numbers) {
    String plain =
        new String(
            PathText.unescaped(path(record).getBytes(StandardCharsets.UTF_8)),
            StandardCharsets.UTF_8);
    String options = numbers ? "-pEn" : "-pE";
    Tool.Said said =
        Tool.run(List.of("getfacl", options, "--", plain.isEmpty() ? "/" : plain), "", PACKAGE);
    if (said.code() != 0) {
      return Optional.empty();
    }
    boolean owned = record.differences().get(0).added().get(0).startsWith("# owner");
    List<String> list = new ArrayList<>(owned ? PosixText.owners(said.out()) : List.of());
    list.addAll(PosixText.flags(said.out()));
    list.addAll(PosixText.entries(said.out()));
    return Optional.of(String.join("\n", list));
  }

  @Override
  public Standing standing(AmendmentRecord record) {
    Difference list = record.differences().get(0);
    // Lists may have been read with numbers in place of names.
    for (boolean numbers : List.of(false, true)) {
      Standing standing =
          now(record, numbers)
              .map(there -> Standing.of(list, List.of(there), PosixText::isSame))
              .orElse(Standing.OTHER);
      if (standing != Standing.OTHER) {
        return standing;
      }
    }
    return Standing.OTHER;
  }

  @Override
  public String found(AmendmentRecord record) {
    boolean numbers = record.differences().toString().matches("(?s).*(user|group):[0-9]+:.*");
    return now(record, numbers)
        .map(there -> "its list is " + String.join(" ", there.lines().toList()))
        .orElse("there is no such path, or it may not be seen");
  }

  @Override
  public Result make(AmendmentRecord record) {
    if (standing(record) != Standing.BEFORE) {
      return new Result(Outcome.NOT_AS_COUNTED_ON, "");
    }
    String list = record.differences().get(0).added().get(0);
    String block = PosixTargetKind.block(path(record), list);
    Tool.Said said = Tool.run(List.of("setfacl", "--restore=-"), block, PACKAGE);
    return said.code() == 0 ? Result.MADE : new Result(Outcome.REFUSED, said.why());
  }
}
