using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Respacing;

/// <summary>Bought stitches as they were made anew.</summary>
/// <param name="Stitches">All records.</param>
/// <param name="Told">What the user told that some of them are, by these records.</param>
public sealed record MadeStitches(StitchBlob Stitches, IReadOnlyList<ToldReading> Told);
