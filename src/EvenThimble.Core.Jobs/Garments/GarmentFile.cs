using System.Collections.Immutable;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Garments;

/// <summary>How a roster is sewn.</summary>
public enum SewingWay : byte
{
    /// <summary>A file for each garment.</summary>
    EachGarment,

    /// <summary>One file that stops between garments.</summary>
    OneFile,

    /// <summary>On several heads: what is alike on all at once, then each name on a head of its own.</summary>
    Rounds,
}

/// <summary>What of a job is sewn.</summary>
public enum SewnPart : byte
{
    /// <summary>The design and the names.</summary>
    All,

    /// <summary>The design without names.</summary>
    DesignOnly,

    /// <summary>The names alone, where they lie beside the design.</summary>
    NamesOnly,
}

/// <summary>A garment that a file sews.</summary>
/// <param name="Name">Whose it is.</param>
/// <param name="Head">On which head, from 1; null: there is one.</param>
/// <param name="Copies">How many of them are sewn with this file.</param>
public sealed record SewnGarment(RollName Name, int? Head, int Copies);

/// <summary>A file that is to be written for names.</summary>
/// <param name="Stem">What it is called, without its ending.</param>
/// <param name="Title">Its title, as the machine shows it.</param>
/// <param name="Garments">What it sews, in order; none: the design alone, for all.</param>
/// <param name="Plan">What the machine does, with the middle of the field at the origin, mm.</param>
/// <param name="Hoop">What it says of the hoop.</param>
/// <param name="Findings">Its readiness.</param>
public sealed record GarmentFile(string Stem, string Title, ImmutableArray<SewnGarment> Garments, SewingPlan Plan, HoopNote Hoop, ImmutableArray<Finding> Findings)
{
    /// <summary>Whether the machine would refuse it.</summary>
    public bool InTrouble => Findings.Any(f => f.Level == FindingLevel.Trouble);

    /// <summary>The contents of the stitch file.</summary>
    public StitchFile ToFile() => Plan.ToFile(Title) with { Hoop = Hoop };
}
