package org.sobercompass.sources.files;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.problem.OutsideException;

/**
 * Files behind a share, changed over SMB. The protocol has no way to change a list only if it is
 * still the same: it is read and compared just before. A server sets the list of that path alone,
 * so there is a record for each path below that gets what is handed on.
 */
final class SharedTarget implements LiveTarget {
  private final ShareDoor door;

  SharedTarget(ShareDoor door) {
    this.door = door;
  }

  @Override
  public String identity() {
    return door.identity();
  }

  @Override
  public String reached() {
    return door.reached();
  }

  static Descriptor descriptor(String text) {
    try {
      return Sddl.read(text, Optional.empty());
    } catch (MalformedException e) {
      throw new IllegalStateException(text, e);
    }
  }

  /** Whether two lists say the same; marks of how they were inherited decide nothing. */
  static boolean isSame(Descriptor one, Descriptor other) {
    return one.owner().equals(other.owner())
        && one.group().equals(other.group())
        && one.isProtected() == other.isProtected()
        && one.dacl().equals(other.dacl());
  }

  @Override
  public Standing standing(AmendmentRecord record) {
    return read(record)
        .map(
            now ->
                Standing.of(
                    record.differences().get(0),
                    List.of(Sddl.text(now)),
                    (one, other) -> isSame(descriptor(one), descriptor(other))))
        .orElse(Standing.OTHER);
  }

  private Optional<Descriptor> read(AmendmentRecord record) {
    try {
      return door.read(record.place());
    } catch (ShareDoor.Refused e) {
      return Optional.empty();
    }
  }

  @Override
  public String found(AmendmentRecord record) {
    try {
      return door.read(record.place())
          .map(now -> "its list is " + Sddl.text(now))
          .orElse("there is no such path");
    } catch (ShareDoor.Refused e) {
      return "its list cannot be read: " + e.why();
    }
  }

  @Override
  public Result make(AmendmentRecord record) {
    try {
      if (standing(record) != Standing.BEFORE) {
        return new Result(Outcome.NOT_AS_COUNTED_ON, "");
      }
      Difference list = record.differences().get(0);
      door.write(
          record.place(), descriptor(list.removed().get(0)), descriptor(list.added().get(0)));
      return Result.MADE;
    } catch (ShareDoor.Refused e) {
      return new Result(Outcome.REFUSED, "the server says " + e.why());
    } catch (OutsideException e) {
      return new Result(Outcome.LOST, e.problem().what());
    }
  }

  @Override
  public void close() {
    door.close();
  }
}
