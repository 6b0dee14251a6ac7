namespace EvenThimble.Core.Craft;

/// <summary>How motifs follow each other.</summary>
public enum MotifTurn : byte
{
    /// <summary>All alike.</summary>
    Alike,

    /// <summary>Every second one to the other side of the line.</summary>
    Alternating,

    /// <summary>All to the other side of the line.</summary>
    Mirrored,
}
