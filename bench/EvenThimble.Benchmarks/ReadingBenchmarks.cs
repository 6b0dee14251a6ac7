using BenchmarkDotNet.Attributes;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Benchmarks;

/// <summary>Reading a revision 2 file of 100,000 stitches, against a loop that only decodes its numbers.</summary>
[MemoryDiagnoser]
public class ReadingBenchmarks
{
    private byte[] _file = [];
    private byte[] _stitches = [];

    [GlobalSetup]
    public void Prepare()
    {
        var file = Made(100_000);
        _file = StitchFormats.Write(StitchFileKind.Evth2, file);
        var at = _file.AsSpan().IndexOf("STCH"u8);
        _stitches = _file[(at + 8)..(at + 8 + BitConverter.ToInt32(_file, at + 4))];
    }

    [Benchmark(Baseline = true, Description = "BinaryReader loop, numbers only")]
    public long PlainLoop()
    {
        using var reader = new BinaryReader(new MemoryStream(_stitches));
        var count = reader.ReadUInt32();
        long x = 0, y = 0, sum = 0;
        for (var i = 0; i < count; i++)
        {
            switch (reader.ReadByte())
            {
                case 0 or 1:
                    var (dx, dy) = ((uint)reader.Read7BitEncodedInt(), (uint)reader.Read7BitEncodedInt());
                    x += (int)(dx >> 1) ^ -(int)(dx & 1);
                    y += (int)(dy >> 1) ^ -(int)(dy & 1);
                    sum += x ^ y;
                    break;
                case 3:
                    reader.Read7BitEncodedInt();
                    reader.ReadByte();
                    break;
                case 4:
                    reader.ReadBytes(reader.ReadByte());
                    break;
            }
        }

        return sum;
    }

    [Benchmark(Description = "StitchFormats.Read, whole file with checksums")]
    public StitchFile Whole() => StitchFormats.Read(_file, "bench").File;

    /// <summary>A fill-like file: steps of about 4 mm along rows 0.4 mm apart, ten threads.</summary>
    public static StitchFile Made(int stitches)
    {
        var builder = new StitchBuilder(stitches + 100);
        var parts = new List<StitchFilePart>();
        var random = new Random(7);
        for (var p = 0; p < 10; p++)
        {
            var first = builder.Count;
            for (var i = 0; i < stitches / 10; i++)
            {
                var (row, column) = (i / 25, i % 25);
                builder.Stitch(new(Math.Round(((row % 2 == 0 ? column : 24 - column) * 4) - 48 + random.NextDouble(), 2), Math.Round((row * 0.4) - 80 + (p * 0.04), 2)));
            }

            builder.Trim();
            parts.Add(new(first, builder.Count - first, SewingThread.Unnamed(p), PartRole.Decoration));
        }

        return new("Bench", builder.ToBlob(), [.. parts]);
    }
}
