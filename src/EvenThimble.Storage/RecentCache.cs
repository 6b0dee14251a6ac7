namespace EvenThimble.Storage;

/// <summary>Keeps the most recently used values up to a total weight; safe for several threads.</summary>
/// <param name="most">The most that all values may weigh together.</param>
/// <param name="weight">What one value weighs.</param>
public sealed class RecentCache<TKey, TValue>(long most, Func<TValue, long> weight)
    where TKey : notnull
{
    private readonly Lock _lock = new();
    private readonly Dictionary<TKey, LinkedListNode<(TKey Key, TValue Value)>> _nodes = [];
    private readonly LinkedList<(TKey Key, TValue Value)> _recent = new();
    private long _weight;

    /// <summary>The value of a key, made when it is not kept. Two threads may both make it; one result is kept.</summary>
    public TValue GetOrAdd(TKey key, Func<TKey, TValue> make)
    {
        lock (_lock)
        {
            if (_nodes.TryGetValue(key, out var node))
            {
                _recent.Remove(node);
                _recent.AddFirst(node);
                return node.Value.Value;
            }
        }

        var made = make(key);
        lock (_lock)
        {
            if (_nodes.TryGetValue(key, out var other)) return other.Value.Value;
            _nodes[key] = _recent.AddFirst((key, made));
            _weight += weight(made);
            while (_weight > most && _recent.Last is { } last && last != _recent.First)
            {
                _recent.RemoveLast();
                _nodes.Remove(last.Value.Key);
                _weight -= weight(last.Value.Value);
            }
        }

        return made;
    }
}
