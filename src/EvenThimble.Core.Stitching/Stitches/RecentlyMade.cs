namespace EvenThimble.Core.Stitches;

/// <summary>Remembers the recent results of a costly computation by what they depend on. May be used from several threads.</summary>
/// <param name="mostWeight">How much is kept in all; the latest result is kept whatever it weighs.</param>
/// <param name="weigh">The weight of a result.</param>
public sealed class RecentlyMade<TAsked, TMade>(long mostWeight, Func<TMade, long> weigh)
    where TAsked : notnull
{
    private readonly Lock _lock = new();
    private readonly Dictionary<TAsked, LinkedListNode<(TAsked Asked, TMade Made)>> _known = [];
    private readonly LinkedList<(TAsked Asked, TMade Made)> _recent = [];
    private long _weight;

    /// <summary>The remembered result, or the one that is made now.</summary>
    public TMade Get(TAsked asked, Func<TMade> make)
    {
        lock (_lock)
        {
            if (_known.TryGetValue(asked, out var node))
            {
                _recent.Remove(node);
                _recent.AddFirst(node);
                return node.Value.Made;
            }
        }

        var made = make();
        lock (_lock)
        {
            if (_known.ContainsKey(asked)) return made;
            _known[asked] = _recent.AddFirst((asked, made));
            for (_weight += weigh(made); _weight > mostWeight && _recent.Count > 1; _recent.RemoveLast())
            {
                var (oldest, its) = _recent.Last!.Value;
                _known.Remove(oldest);
                _weight -= weigh(its);
            }
        }

        return made;
    }
}
