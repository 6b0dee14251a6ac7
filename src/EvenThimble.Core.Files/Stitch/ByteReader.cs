using System.Text;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>Reads numbers from bytes and never past their end.</summary>
/// <param name="bytes">What is read.</param>
/// <param name="where">The name of the chunk, for messages.</param>
internal ref struct ByteReader(ReadOnlySpan<byte> bytes, string where)
{
    private readonly ReadOnlySpan<byte> _bytes = bytes;
    private readonly string _where = where;
    private int _at;

    public readonly int Left => _bytes.Length - _at;

    public byte U8() => _at < _bytes.Length ? _bytes[_at++] : throw CutShort();

    public int U16() => U8() | (U8() << 8);

    public uint U32() => (uint)(U16() | (U16() << 16));

    /// <summary>An unsigned LEB128 number of at most 32 bits.</summary>
    public uint Leb128()
    {
        uint value = 0;
        for (var shift = 0; shift < 35; shift += 7)
        {
            if ((uint)_at >= (uint)_bytes.Length) throw CutShort();
            var b = _bytes[_at++];
            if (shift == 28 && b > 0x0F) break;
            value |= (uint)(b & 0x7F) << shift;
            if ((b & 0x80) == 0) return value;
        }

        throw new StitchFileException($"The {_where} chunk is damaged at its byte {_at}: a number there is too long.");
    }

    /// <summary>A zigzag LEB128 number: 0, -1, 1, -2, ...</summary>
    public int Zigzag()
    {
        // Most steps are below 0.64 mm and take one byte.
        if ((uint)_at < (uint)_bytes.Length && _bytes[_at] < 0x80)
        {
            var small = _bytes[_at++];
            return (small >> 1) ^ -(small & 1);
        }

        var value = Leb128();
        return (int)(value >> 1) ^ -(int)(value & 1);
    }

    /// <summary>A text with its length in one byte.</summary>
    public string ShortText()
    {
        var length = U8();
        if (length > Left) throw CutShort();
        var text = Titles.Clean(Encoding.UTF8.GetString(_bytes.Slice(_at, length)));
        _at += length;
        return text;
    }

    public readonly void MustBeAtEnd()
    {
        if (Left > 0) throw new StitchFileException($"The {_where} chunk is damaged: {Left} bytes are left over after what it announces.");
    }

    private readonly StitchFileException CutShort() => new($"The {_where} chunk is damaged: it ends in the middle, at its byte {_bytes.Length}. Copy the file again from where it came.");
}
