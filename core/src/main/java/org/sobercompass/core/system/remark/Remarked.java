package org.sobercompass.core.system.remark;

/** What a remark is about. Resources and rights are numbers of the system that remarks. */
public sealed interface Remarked permits RemarkedFiles, RemarkedDatabase {}
