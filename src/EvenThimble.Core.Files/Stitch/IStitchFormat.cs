using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>One kind of stitch file: how it is known, read and written. <see cref="StitchFormats"/> lists them; nothing else knows how many there are.</summary>
public interface IStitchFormat
{
    /// <summary>Its names.</summary>
    StitchFileKind Kind { get; }

    /// <summary>How far a point may move by rounding, mm.</summary>
    double ToleranceMm { get; }

    /// <summary>Whether it carries the colours of threads and the roles of parts.</summary>
    bool CarriesThreads { get; }

    /// <summary>Whether a file begins as its files do. The first of the list that says so is taken.</summary>
    bool Recognises(ReadOnlySpan<byte> bytes);

    /// <summary>Reads a file.</summary>
    /// <exception cref="StitchFileException">It is damaged; the message says where.</exception>
    StitchFile Read(ReadOnlySpan<byte> bytes);

    /// <summary>Writes a file.</summary>
    /// <exception cref="StitchFileException">The stitches are more, or reach farther, than it can describe.</exception>
    byte[] Write(StitchFile file);

    /// <summary>What a file loses in it, in sentences.</summary>
    IEnumerable<string> Losses(StitchFile file);
}
