package org.sobercompass.sources.workspace;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.disk.OwnFiles;

/** A workspace whose files are changed, each whole or not at all. */
final class WorkspaceTarget implements LiveTarget {
  private final Folder root;

  WorkspaceTarget(Path root) {
    this.root = new Folder(root, true);
  }

  @Override
  public String identity() {
    return System.getProperty("user.name", "");
  }

  @Override
  public String reached() {
    return root.path().toAbsolutePath().normalize().toString();
  }

  private Optional<String> now(AmendmentRecord record) {
    Path file = root.resolve(record.place());
    try {
      return Files.isRegularFile(file)
          ? Optional.of(Files.readString(file, StandardCharsets.UTF_8))
          : Optional.empty();
    } catch (IOException e) {
      throw OwnFiles.failed(file, e);
    }
  }

  @Override
  public Standing standing(AmendmentRecord record) {
    Difference text = record.differences().get(0);
    return now(record)
        .map(there -> Standing.of(text, List.of(there), String::equals))
        .orElse(Standing.OTHER);
  }

  @Override
  public String found(AmendmentRecord record) {
    return now(record).isEmpty()
        ? "there is no file " + record.place()
        : "the file was changed since it was read";
  }

  @Override
  public Result make(AmendmentRecord record) {
    if (standing(record) != Standing.BEFORE) {
      return new Result(Outcome.NOT_AS_COUNTED_ON, "");
    }
    try {
      OwnFiles.edit(root.resolve(record.place()), record.differences().get(0).added().get(0));
      return Result.MADE;
    } catch (OutsideException e) {
      return new Result(Outcome.REFUSED, e.problem().what());
    }
  }

  @Override
  public void close() {
    // Nothing is held open.
  }
}
