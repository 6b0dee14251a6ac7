using System.Collections.Immutable;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Readiness;

/// <summary>How much a finding matters.</summary>
public enum FindingLevel
{
    /// <summary>Good to know; the job is ready all the same.</summary>
    Note,

    /// <summary>Should be looked at before sewing.</summary>
    Attention,

    /// <summary>The machine would not take the file, or it would spoil the cloth.</summary>
    Trouble,
}

/// <summary>Something that can be done about a finding.</summary>
/// <param name="Key">Names it among the findings of one job.</param>
/// <param name="Label">As the button says it.</param>
/// <param name="Edit">What the button does.</param>
public sealed record Remedy(string Key, string Label, JobEdit Edit);

/// <summary>Thread that is missing.</summary>
/// <param name="Thread">Which.</param>
/// <param name="Metres">How much, m.</param>
public sealed record MissingThread(SewingThread Thread, double Metres);

/// <summary>One result of readiness.</summary>
/// <param name="Key">Names the kind of finding.</param>
/// <param name="Level">How much it matters.</param>
/// <param name="Says">What is so, in a sentence.</param>
/// <param name="Advice">What to do.</param>
public sealed record Finding(string Key, FindingLevel Level, string Says, string Advice)
{
    /// <summary>It is about hoop and hoopings; where it is trouble, too, the job cannot be sewn in them as it lies.</summary>
    public bool ConcernsTheHoop { get; init; }

    /// <summary>What can be done at a click.</summary>
    public ImmutableArray<Remedy> Remedies { get; init; } = [];

    /// <summary>Thread that is missing, where that is what was found.</summary>
    public ImmutableArray<MissingThread> Missing { get; init; } = [];

    /// <summary>The record of the plan where it is seen first, where there is such a place.</summary>
    public int? Record { get; init; }
}
