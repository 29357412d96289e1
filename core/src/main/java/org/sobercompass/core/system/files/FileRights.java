package org.sobercompass.core.system.files;

import java.util.List;
import org.sobercompass.core.system.MaskRights;
import org.sobercompass.core.system.MaskRights.Item;

/**
 * The rights on files and folders. Those of lists with entries that allow and deny have the bits of
 * [MS-SMB2] 2.2.13.1, which are those of RFC 7530 section 6.2.1.3; the names say both what a bit
 * means for a file and for a folder where that differs much.
 */
public final class FileRights {
  public static final int READ_DATA = 0x1;
  public static final int WRITE_DATA = 0x2;
  public static final int APPEND_DATA = 0x4;
  public static final int READ_NAMED = 0x8;
  public static final int WRITE_NAMED = 0x10;
  public static final int EXECUTE = 0x20;
  public static final int DELETE_CHILD = 0x40;
  public static final int READ_ATTRIBUTES = 0x80;
  public static final int WRITE_ATTRIBUTES = 0x100;
  public static final int DELETE = 0x1_0000;
  public static final int READ_LIST = 0x2_0000;
  public static final int WRITE_LIST = 0x4_0000;
  public static final int WRITE_OWNER = 0x8_0000;
  public static final int SYNCHRONIZE = 0x10_0000;

  /** Reading and executing. */
  public static final int READ = 0x12_00a9;

  /** Reading, writing and deleting, but not permissions. */
  public static final int CHANGE = 0x13_01bf;

  /** Everything. */
  public static final int FULL = 0x1f_01ff;

  /** What owning a file brings: one may change its mode or list. */
  static final long OWNS = 1L << 8;

  /** What the superuser has. */
  static final long ROOT = 1L << 9;

  /** The three groups of rights, then the exact ones. */
  static final MaskRights ENTRIES =
      new MaskRights(
          List.of(
              new Item("full", FULL, true),
              new Item("change", CHANGE, false),
              new Item("read", READ, false),
              new Item("read-data", READ_DATA, false),
              new Item("write-data", WRITE_DATA, false),
              new Item("append-data", APPEND_DATA, false),
              new Item("read-named-attributes", READ_NAMED, false, true),
              new Item("write-named-attributes", WRITE_NAMED, false, true),
              new Item("execute", EXECUTE, false),
              new Item("delete-child", DELETE_CHILD, false),
              new Item("read-attributes", READ_ATTRIBUTES, false, true),
              new Item("write-attributes", WRITE_ATTRIBUTES, false, true),
              new Item("delete", DELETE, false),
              new Item("read-permissions", READ_LIST, false, true),
              new Item("change-permissions", WRITE_LIST, true),
              new Item("take-ownership", WRITE_OWNER, true),
              new Item("synchronize", SYNCHRONIZE, false, true)));

  /** A bit for each right. */
  static final int POSIX_READ = 0;

  static final int POSIX_WRITE = 1;
  static final int POSIX_EXECUTE = 2;
  static final int POSIX_CREATE = 3;
  static final int POSIX_DELETE = 4;
  static final int POSIX_CHANGE_MODE = 5;
  static final int POSIX_CHANGE_OWNER = 6;

  /** What can be done to files of 1003.1e; the mask of each is its number. */
  static final MaskRights POSIX =
      new MaskRights(
          List.of(
              new Item("read", 1L << POSIX_READ, false),
              new Item("write", 1L << POSIX_WRITE, true),
              new Item("execute", 1L << POSIX_EXECUTE, false),
              new Item("create", 1L << POSIX_CREATE, true),
              new Item("delete", 1L << POSIX_DELETE, true),
              new Item("change-permissions", 1L << POSIX_CHANGE_MODE, true),
              new Item("change-owner", 1L << POSIX_CHANGE_OWNER, true)));

  private FileRights() {}

  /** Generic rights replaced by what they stand for on files ([MS-SMB2] 2.2.13.1.1). */
  public static int mapped(int mask) {
    int out = mask & 0x0fff_ffff;
    out |= (mask & 0x1000_0000) != 0 ? FULL : 0;
    out |= (mask & 0x2000_0000) != 0 ? 0x12_00a0 : 0;
    out |= (mask & 0x4000_0000) != 0 ? 0x12_0116 : 0;
    out |= (mask & 0x8000_0000) != 0 ? 0x12_0089 : 0;
    return out;
  }
}
