namespace EvenThimble.Core.Stitches;

/// <summary>Where stored stitches come from.</summary>
public interface IStitchSource
{
    /// <summary>The blob of a hash.</summary>
    /// <exception cref="KeyNotFoundException">There is none.</exception>
    StitchBlob Get(BlobHash hash);
}
