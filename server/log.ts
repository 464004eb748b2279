import pino from 'pino'

export const log = pino({ level: process.env.PLAIN_CUT_LOG ?? 'warn', serializers: { error: pino.stdSerializers.err } })
