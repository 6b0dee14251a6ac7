using EvenThimble.Core.Colour;

namespace EvenThimble.Core.Threads;

/// <summary>A thread as its maker sells it. Maker and number are empty where a file did not name them.</summary>
public sealed record SewingThread(string Maker, string Number, string Name, Rgb Colour)
{
    // Distinct, warm to cool, for files that say only "next thread".
    private static readonly int[] UnnamedColours =
        [0x2F4B7C, 0xC9962B, 0xA63A3C, 0x4D7A4A, 0x7A5C8E, 0x3E8E9C, 0xB5652F, 0x6B6F76, 0xD07C8F, 0x8A7A2E, 0x52443A, 0x9FB7C9];

    /// <summary>A stand-in for the n-th thread (from 0) of a file that carries no colours.</summary>
    public static SewingThread Unnamed(int n) => new(string.Empty, string.Empty, $"Thread {n + 1}", Rgb.FromInt(UnnamedColours[n % UnnamedColours.Length]));

    /// <summary>Maker, number and name in one line, as on a cone.</summary>
    public string Label => string.Join(' ', new[] { Maker, Number, Name }.Where(part => part.Length > 0));

    /// <summary>Whether both are the same article: by maker and number where they have one, whatever name or colour a file gave them.</summary>
    public bool IsSameAs(SewingThread other) => Number.Length > 0 ? Maker == other.Maker && Number == other.Number : this == other;
}
