using EvenThimble.Core.Drawing;
using EvenThimble.Core.Fabrics;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Digitizing;

/// <summary>Makes the stitches of drawn shapes and remembers the recent ones, so that only what was changed is made anew. May be used from several threads.</summary>
public sealed class DigitizedStitches(int mostRecords = 1_500_000)
{
    /// <summary>What of a cloth the stitches depend on.</summary>
    private readonly record struct Asked(DrawnShape Shape, StitchSettings Settings, double SatinSpacing, double FillSpacing, UnderlayLayers SatinUnderlay, UnderlayLayers FillUnderlay, double Compensation);

    private readonly Lock _lock = new();
    private readonly Dictionary<Asked, LinkedListNode<(Asked Asked, StitchBlob Made)>> _known = [];
    private readonly LinkedList<(Asked Asked, StitchBlob Made)> _recent = [];
    private long _records;

    /// <summary>The stitches of a shape with its settings on a cloth.</summary>
    public StitchBlob Get(DrawnShape shape, StitchSettings settings, ClothProfile cloth, CancellationToken cancel = default)
    {
        var asked = new Asked(shape, settings, cloth.SatinSpacing, cloth.FillSpacing, cloth.SatinUnderlay, cloth.FillUnderlay, cloth.Compensation);
        lock (_lock)
        {
            if (_known.TryGetValue(asked, out var node))
            {
                _recent.Remove(node);
                _recent.AddFirst(node);
                return node.Value.Made;
            }
        }

        var made = Digitizer.Stitch(shape, settings, cloth, cancel);
        lock (_lock)
        {
            if (_known.TryAdd(asked, new((asked, made))))
            {
                _recent.AddFirst(_known[asked]);
                for (_records += made.Count + 100; _records > mostRecords && _recent.Count > 1;)
                {
                    var oldest = _recent.Last!;
                    _recent.RemoveLast();
                    _known.Remove(oldest.Value.Asked);
                    _records -= oldest.Value.Made.Count + 100;
                }
            }
        }

        return made;
    }
}
