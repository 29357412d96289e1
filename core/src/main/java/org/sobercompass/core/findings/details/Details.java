package org.sobercompass.core.findings.details;

/**
 * What a finding is about, as data. Numbers are those of the model in which it was found; see
 * {@link org.sobercompass.core.findings.Found#model()}. Immutable.
 */
public sealed interface Details
    permits AccountDetails,
        AdminGrantDetails,
        DelegationDetails,
        GrantDetails,
        GroupDetails,
        ListDetails,
        PowerDetails,
        SeparationDetails,
        SourceDetails,
        UseDetails {}
