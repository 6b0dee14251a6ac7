using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>An unbroken thread as it is made anew.</summary>
internal sealed class SewnThread
{
    private readonly List<(int End, Passage Passage)> _passages = [];

    /// <summary>Its needle points.</summary>
    public List<Point> Points { get; } = [];

    /// <summary>The record of the first needle point that it was made from.</summary>
    public int First => _passages[0].Passage.First;

    /// <summary>That of the last.</summary>
    public int Last => _passages[^1].Passage.Last;

    /// <summary>What became of each passage, by the numbers of its first and last needle point: the next begins where it ends.</summary>
    public IEnumerable<(int From, int End, Passage Passage)> Stretches
    {
        get
        {
            var from = 0;
            foreach (var (end, passage) in _passages)
            {
                yield return (from, end, passage);
                from = end;
            }
        }
    }

    /// <summary>Ends a passage with the last needle point so far.</summary>
    public void End(Passage passage) => _passages.Add((Points.Count - 1, passage));

    /// <summary>Puts needle points before one.</summary>
    public void Insert(int before, List<Point> points)
    {
        Points.InsertRange(before, points);
        for (var k = 0; k < _passages.Count; k++)
            if (_passages[k].End >= before)
                _passages[k] = _passages[k] with { End = _passages[k].End + points.Count };
    }
}
