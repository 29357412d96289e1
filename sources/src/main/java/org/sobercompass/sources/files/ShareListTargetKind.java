package org.sobercompass.sources.files;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;

/**
 * The lists of shares themselves, as SDDL by the name of the share. On a host that shares by Samba
 * they are set with its own tool; elsewhere somebody sets them where the share is set up.
 */
public final class ShareListTargetKind implements TargetKind {
  /** The word for it. */
  static final String ID = "share-lists";

  private static final Form FORM =
      new Form(
          ID,
          "a table of shares and their own lists as SDDL",
          ".csv",
          "the smb.conf of the Samba that shares, on this host; its usual one when left out",
          "");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    return SharedTargetKind.table("share", records);
  }

  @Override
  public LiveTarget open(Door door, Secret.Origins origins) {
    if (!door.where().isEmpty() && !Files.isReadable(Path.of(door.where()))) {
      throw new Collecting.Mistyped(
          "there is no file " + Problem.quote(door.where()) + "; expected " + FORM.where());
    }
    return new Lists(door.where());
  }

  /** Lists of shares as Samba's own tool reads and sets them. Not thread-safe. */
  private static final class Lists extends HostTarget {
    private final String configuration;

    Lists(String configuration) {
      super(
          "the shares of this machine" + (configuration.isEmpty() ? "" : ", by " + configuration));
      this.configuration = configuration;
    }

    private Tool.Said run(AmendmentRecord record, String option) {
      List<String> command =
          configuration.isEmpty()
              ? List.of("sharesec", option, record.place())
              : List.of("sharesec", "--configfile=" + configuration, option, record.place());
      return Tool.run(command, "", "samba");
    }

    private Optional<Descriptor> now(AmendmentRecord record) {
      Tool.Said said = run(record, "--viewsddl");
      try {
        return said.code() == 0 && said.out().contains("D:")
            ? Optional.of(Sddl.read(said.out().strip(), Optional.empty()))
            : Optional.empty();
      } catch (MalformedException e) {
        return Optional.empty();
      }
    }

    /** A share has no owner, and nothing above it. */
    private static boolean isSame(String one, String other) {
      return SharedTarget.descriptor(one).dacl().equals(SharedTarget.descriptor(other).dacl());
    }

    @Override
    public Standing standing(AmendmentRecord record) {
      return now(record)
          .map(
              there ->
                  Standing.of(
                      record.differences().get(0), List.of(Sddl.text(there)), Lists::isSame))
          .orElse(Standing.OTHER);
    }

    @Override
    public String found(AmendmentRecord record) {
      return now(record)
          .map(there -> "its list is " + Sddl.text(there))
          .orElse("there is no such share, or its list may not be seen");
    }

    @Override
    public Result make(AmendmentRecord record) {
      if (standing(record) != Standing.BEFORE) {
        return new Result(Outcome.NOT_AS_COUNTED_ON, "");
      }
      String list = record.differences().get(0).added().get(0);
      Tool.Said said = run(record, "--setsddl=" + list.substring(list.indexOf("D:")));
      return said.code() == 0 ? Result.MADE : new Result(Outcome.REFUSED, said.why());
    }
  }
}
