package org.sobercompass.sources.workspace;

import com.github.difflib.DiffUtils;
import com.github.difflib.UnifiedDiffUtils;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;

/** The files of a workspace: tables of assignments and registers, scopes, roles; as patches. */
public final class WorkspaceTargetKind implements TargetKind {
  /** The word for it; also the name of the target. */
  public static final String ID = "workspace";

  private static final int AROUND = 3;

  private static final Form FORM =
      new Form(
          ID,
          "a patch of the workspace's files",
          ".patch",
          "the folder of the workspace",
          "patch -p0 < FILE");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    StringBuilder out = new StringBuilder();
    for (AmendmentRecord record : records) {
      for (Difference difference : record.differences()) {
        List<String> was = lines(difference.removed());
        List<String> is = lines(difference.added());
        UnifiedDiffUtils.generateUnifiedDiff(
                record.place(), record.place(), was, DiffUtils.diff(was, is), AROUND)
            .forEach(line -> out.append(line).append('\n'));
      }
    }
    return out.toString();
  }

  private static List<String> lines(List<String> texts) {
    return List.of(String.join("", texts).split("\n", -1));
  }

  @Override
  public LiveTarget open(Door door, Secret.Origins origins) {
    Path root = Path.of(door.where().isEmpty() ? "." : door.where());
    if (!Files.isRegularFile(root.resolve(WorkspaceReader.MAIN))) {
      throw new Collecting.Mistyped(
          "there is no workspace at "
              + Problem.quote(root.toString())
              + "; expected "
              + FORM.where());
    }
    return new WorkspaceTarget(root);
  }
}
