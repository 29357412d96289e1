package org.sobercompass.core.delegation;

import java.util.BitSet;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.store.Texts;

/**
 * The arrays behind a {@link DirectoryTree}, one item an object unless said otherwise.
 *
 * @param dn the names as written
 * @param dnForm the names in canonical form
 * @param parent the object above, or -1
 * @param end one after the last object below
 * @param kind the number of its class
 * @param classes the names of classes, by number
 * @param descriptor the number of its descriptor, or {@link DirectoryTree#UNREADABLE}
 * @param descriptors the distinct descriptors
 * @param sid its SID, or empty
 * @param label the name for people
 * @param history SIDs it brought along from elsewhere, by object
 * @param foreign groups that list a trustee of elsewhere by its SID: object of the group by SID
 * @param implicitEverywhere whether everyone, and everyone signed in, count as members of any group
 *     that lists them; else of built-in groups only
 * @param privileges whether the directory bears the mark of protected administrators, by object
 */
record TreeArrays(
    Texts dn,
    Texts dnForm,
    int[] parent,
    int[] end,
    int[] kind,
    List<String> classes,
    int[] descriptor,
    List<Descriptor> descriptors,
    Texts sid,
    Texts label,
    Map<Integer, List<String>> history,
    Map<String, List<Integer>> foreign,
    BitSet privileges,
    boolean implicitEverywhere) {
  /** The same objects with other lists. */
  TreeArrays with(int[] otherDescriptor, List<Descriptor> otherDescriptors) {
    return new TreeArrays(
        dn,
        dnForm,
        parent,
        end,
        kind,
        classes,
        otherDescriptor,
        otherDescriptors,
        sid,
        label,
        history,
        foreign,
        privileges,
        implicitEverywhere);
  }
}
