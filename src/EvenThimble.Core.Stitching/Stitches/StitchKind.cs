namespace EvenThimble.Core.Stitches;

/// <summary>What the machine does at one record; the values are those of the stitch file.</summary>
public enum StitchKind : byte
{
    /// <summary>The needle goes down here.</summary>
    Stitch = 0,

    /// <summary>The frame moves here without the needle going down.</summary>
    Jump = 1,

    /// <summary>The thread is cut.</summary>
    Trim = 2,

    /// <summary>The next thread is taken. Never inside a blob: there it is the border between two parts.</summary>
    ThreadChange = 3,

    /// <summary>The machine waits for the operator, perhaps with a message.</summary>
    Stop = 4,

    /// <summary>The file ends.</summary>
    End = 255,
}
