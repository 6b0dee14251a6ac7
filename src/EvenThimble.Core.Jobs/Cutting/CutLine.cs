using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Outlining;

namespace EvenThimble.Core.Cutting;

/// <summary>What a cut line is taken from.</summary>
public enum CutLineFrom : byte
{
    /// <summary>A line of stitches.</summary>
    Run,

    /// <summary>The middle of a zigzag or satin.</summary>
    Middle,

    /// <summary>The outline of a shape or letter.</summary>
    Shape,

    /// <summary>The outer edge of stitches together.</summary>
    Edge,
}

/// <summary>A line that can be cut, before the allowance, where it lies in the job.</summary>
/// <param name="Key">Its name.</param>
/// <param name="Name">What the user reads: the part that it is taken from, numbered where that has several.</param>
/// <param name="From">What it is taken from.</param>
/// <param name="Line">The line.</param>
/// <param name="Change">What the user has set of it.</param>
public sealed record CutLine(CutKey Key, string Name, CutLineFrom From, FoundLine Line, CutChange Change)
{
    /// <summary>The line on whose edge it lies too and which is cut instead; null: none.</summary>
    public CutKey? SameAs { get; init; }

    /// <summary>It crosses itself.</summary>
    public bool CrossesItself { get; init; }

    /// <summary>Whether it is cut: chosen, closed and no other on the same edge is.</summary>
    public bool IsCut => !Change.Dropped && Line.Closed && SameAs is null;

    /// <summary>In words what it is taken from.</summary>
    public string Taken => From switch
    {
        CutLineFrom.Run => "along the stitches",
        CutLineFrom.Middle => "the middle of the zigzag or satin",
        CutLineFrom.Shape => "the outline of the shape",
        _ => "the outer edge",
    };
}

/// <summary>Something that was sewn with a cut line and is no part of it.</summary>
/// <param name="Part">Of which part.</param>
/// <param name="Left">What.</param>
public readonly record struct CutLeftOut(PartId Part, LeftOut Left);
