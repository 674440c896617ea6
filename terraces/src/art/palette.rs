//! The dusk palette: the only colours of the demo.
#![allow(missing_docs)] // their names say it

use crate::picture::Colour;

const fn rgb(hex: u32) -> Colour {
    [(hex >> 16) as u8, (hex >> 8) as u8, hex as u8, 255]
}

pub const NIGHT: Colour = rgb(0x0015_1029);
pub const PLUM: Colour = rgb(0x0026_1a42);
pub const VIOLET: Colour = rgb(0x0040_2a5f);
pub const MAUVE: Colour = rgb(0x006b_3f77);
pub const ROSE: Colour = rgb(0x00a5_5580);
pub const CORAL: Colour = rgb(0x00dd_7d6c);
pub const APRICOT: Colour = rgb(0x00f4_ae6b);
pub const HONEY: Colour = rgb(0x00fb_d68a);
pub const CREAM: Colour = rgb(0x00ff_f1c9);

pub const MOSS: Colour = rgb(0x001e_3a3a);
pub const LEAF: Colour = rgb(0x002f_6349);
pub const TEA: Colour = rgb(0x0055_9556);
pub const SPROUT: Colour = rgb(0x00a3_c764);

pub const LOAM: Colour = rgb(0x002a_1d30);
pub const CLAY: Colour = rgb(0x0043_2b3d);
pub const EARTH: Colour = rgb(0x005d_3b47);
pub const SAND: Colour = rgb(0x00b0_7a5e);

pub const SLATE: Colour = rgb(0x0034_304d);
pub const STONE: Colour = rgb(0x0055_5270);
pub const PEBBLE: Colour = rgb(0x007b_7896);
pub const MIST: Colour = rgb(0x00c8_a9b9);

pub const BARK: Colour = rgb(0x003b_2330);
pub const WOOD: Colour = rgb(0x006d_4039);
pub const PLANK: Colour = rgb(0x009d_6347);

pub const SKIN: Colour = rgb(0x00f0_bd96);
pub const COAT: Colour = rgb(0x002f_a8a0);
pub const COAT_SHADE: Colour = rgb(0x001f_6d7c);
