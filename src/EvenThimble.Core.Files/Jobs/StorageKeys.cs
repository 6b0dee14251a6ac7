using System.Text.Json;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>The words by which roles and ways to stitch are stored. They stay as they are whatever the interface calls these things.</summary>
public static class StorageKeys
{
    /// <summary>The key of a role.</summary>
    public static string Of(PartRole role) => Key(role);

    /// <summary>The key of a way to stitch.</summary>
    public static string Of(StitchWay way) => Key(way);

    /// <summary>The role of a key.</summary>
    /// <exception cref="InvalidDataException">There is none.</exception>
    public static PartRole Role(string key) => Find<PartRole>(key) ?? throw new InvalidDataException($"The stored job has a role that is not known: {key}.");

    /// <summary>Whether a key is that of a role.</summary>
    public static bool IsRole(string key) => Find<PartRole>(key) is not null;

    /// <summary>The way of a key.</summary>
    /// <exception cref="InvalidDataException">There is none.</exception>
    public static StitchWay Way(string key) => Find<StitchWay>(key) ?? throw new InvalidDataException($"A stored shape is stitched in a way that is not known: {key}.");

    /// <summary>The key of what stitches were told to be.</summary>
    public static string Of(ReadAs readAs) => Key(readAs);

    /// <summary>What stitches were told to be, by its key.</summary>
    /// <exception cref="InvalidDataException">There is nothing of that name.</exception>
    public static ReadAs ReadAs(string key) => Find<ReadAs>(key) ?? throw new InvalidDataException($"The stored job has stitches told to be what is not known: {key}.");

    /// <summary>The key of a way of basting.</summary>
    public static string Of(Basting basting) => Key(basting);

    /// <summary>The way of basting of a key.</summary>
    /// <exception cref="InvalidDataException">There is none.</exception>
    public static Basting Basting(string key) => Find<Basting>(key) ?? throw new InvalidDataException($"The stored job is basted in a way that is not known: {key}.");

    /// <summary>The key of where the needle rests.</summary>
    public static string Of(NeedleRest rest) => Key(rest);

    /// <summary>Where the needle rests, by its key.</summary>
    /// <exception cref="InvalidDataException">There is no such place.</exception>
    public static NeedleRest Rest(string key) => Find<NeedleRest>(key) ?? throw new InvalidDataException($"In the stored job the needle rests where there is nothing: {key}.");

    private static string Key<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.SnakeCaseLower.ConvertName(value.ToString());

    private static T? Find<T>(string key)
        where T : struct, Enum => Enum.GetValues<T>().Where(v => Key(v) == key).Select(v => (T?)v).FirstOrDefault();
}
