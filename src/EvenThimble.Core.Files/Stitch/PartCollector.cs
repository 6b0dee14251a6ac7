using System.Collections.Immutable;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>Gathers records and thread changes as a reader meets them.</summary>
internal sealed class PartCollector
{
    private readonly List<(int First, SewingThread Thread, PartRole Role)> _borders = [];

    public StitchBuilder Records { get; } = new(4096);

    /// <summary>From here on another part is sewn.</summary>
    public void Change(SewingThread thread, PartRole role) => _borders.Add((Records.Count, thread, role));

    /// <summary>All that was gathered; records before the first change get a stand-in thread.</summary>
    public StitchFile ToFile(string title)
    {
        if (_borders.Count == 0 || _borders[0].First > 0) _borders.Insert(0, (0, SewingThread.Unnamed(0), PartRole.Decoration));
        var parts = _borders
            .Select((b, i) => new StitchFilePart(b.First, (i + 1 < _borders.Count ? _borders[i + 1].First : Records.Count) - b.First, b.Thread, b.Role))
            .Where(p => p.Count > 0);
        return new(title, Records.ToBlob(), [.. parts]);
    }
}
