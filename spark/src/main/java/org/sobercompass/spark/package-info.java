/**
 * The same deciders on Apache Spark.
 *
 * <p>In: a workspace or a survey, laid out once for parts ({@link org.sobercompass.spark.Layout}).
 * Out: tables of holdings, holders, broken separation rules, rights that few peers hold, and drift,
 * in parts. Groups, systems and assignments go to every worker; accounts are parted. Each part is
 * asked by the code that asks a whole organization on one machine, so the rows are the same.
 */
@NullMarked
package org.sobercompass.spark;

import org.jspecify.annotations.NullMarked;
